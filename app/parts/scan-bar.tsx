import { Barcode } from "@phosphor-icons/react/dist/csr/Barcode";
import type { ReactNode, RefObject } from "react";
import { CameraScanner } from "./camera";

/** Where a code is scanned or typed; it is heard and the field is empty for the next one. */
export function ScanBar({
  label,
  placeholder,
  scan,
  onCode,
  className = "",
  children,
}: {
  label: string;
  placeholder: string;
  scan: RefObject<HTMLInputElement | null>;
  onCode: (code: string) => void;
  className?: string;
  /** What it was heard as, where it stands within. */
  children?: ReactNode;
}) {
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onCode(scan.current?.value ?? "");
        if (scan.current) scan.current.value = "";
      }}
      className={`flex items-center gap-3 border-2 border-ink bg-field px-3 ${className}`}
    >
      <Barcode size={27} aria-hidden="true" />
      <input
        ref={scan}
        aria-label={label}
        placeholder={placeholder}
        maxLength={60}
        autoComplete="off"
        autoCapitalize="characters"
        className="min-w-0 flex-1 bg-transparent font-mono text-base outline-none placeholder:font-sans placeholder:text-sm placeholder:text-ink-3"
      />
      {children}
      <CameraScanner onCode={onCode} />
    </form>
  );
}

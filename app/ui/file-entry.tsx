import { Paperclip } from "@phosphor-icons/react/dist/csr/Paperclip";
import { type DragEvent, useRef, useState } from "react";
import { clip } from "../../core/numbers/decimal";

/** What of a drop a field takes: files of the kinds that its `accept` names by their ending. */
const fits = (file: File, accept: string) => {
  const endings = accept
    .split(",")
    .map((a) => a.trim().toLowerCase())
    .filter((a) => a.startsWith("."));
  return endings.length === 0 || endings.some((e) => file.name.toLowerCase().endsWith(e));
};

/**
 * A file, chosen or dropped. In a form its name carries it; `onFile` takes it at once, and then the field is ready for the
 * next one. `accept` names endings, such as ".csv,.xlsx".
 */
export function FileEntry({
  label,
  name,
  accept,
  id,
  disabled = false,
  onFile,
  className = "",
  "aria-invalid": invalid,
  "aria-describedby": about,
}: {
  label: string;
  name?: string;
  accept: string;
  id?: string;
  disabled?: boolean;
  onFile?: (file: File) => void;
  className?: string;
  "aria-invalid"?: true;
  "aria-describedby"?: string;
}) {
  const entry = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  const [chosen, setChosen] = useState("");
  const [says, setSays] = useState("");
  const take = (file: File | undefined) => {
    if (!file) return;
    setSays("");
    setChosen(onFile ? "" : file.name);
    onFile?.(file);
  };
  const drop = (e: DragEvent) => {
    e.preventDefault();
    setOver(false);
    const [file] = e.dataTransfer.files;
    if (!file || disabled) return;
    if (!fits(file, accept)) {
      setSays(`${clip(file.name)} is none of ${accept.replaceAll(",", ", ")}.`);
      return;
    }
    if (entry.current && !onFile) entry.current.files = e.dataTransfer.files;
    take(file);
  };
  return (
    <span className={`flex flex-col ${className}`}>
      <label
        onDragOver={(e) => {
          e.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={drop}
        className={`flex min-h-9 cursor-pointer items-center gap-2 border border-dashed px-2.5 py-1 text-xs focus-within:outline-2 focus-within:outline-harbour ${over ? "border-ink bg-here" : "border-ink-3 bg-field"} ${disabled ? "opacity-60" : ""}`}
      >
        <Paperclip aria-hidden="true" size={15} className="shrink-0" />
        <span className="min-w-0 truncate">
          {chosen ? (
            <b>{chosen}</b>
          ) : (
            <>
              Drop a file here or <span className="underline">choose one</span>
            </>
          )}
        </span>
        <input
          ref={entry}
          id={id}
          type="file"
          name={name}
          accept={accept}
          disabled={disabled}
          aria-label={label}
          aria-invalid={invalid}
          aria-describedby={about}
          className="sr-only"
          onChange={(e) => {
            take(e.target.files?.[0]);
            if (onFile) e.target.value = "";
          }}
        />
      </label>
      {says && (
        <span role="alert" className="text-2xs font-semibold text-signal">
          {says}
        </span>
      )}
    </span>
  );
}

import { Camera } from "@phosphor-icons/react/dist/csr/Camera";
import { lazy, Suspense, useState } from "react";
import { Button } from "../ui/button";

const CameraView = lazy(() => import("./camera-view"));

/** Opens the camera of the device as a scanner; what it reads is heard as if it was scanned. */
export function CameraScanner({ onCode }: { onCode: (code: string) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button
        look="plain"
        className="min-h-9 px-1"
        aria-label={open ? "Close the camera" : "Scan by camera"}
        aria-pressed={open}
        onClick={() => setOpen(!open)}
      >
        <Camera size={24} aria-hidden="true" />
      </Button>
      {open && (
        <Suspense fallback={null}>
          <CameraView onCode={onCode} onClose={() => setOpen(false)} />
        </Suspense>
      )}
    </>
  );
}

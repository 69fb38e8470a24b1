import { useEffect, useRef, useState } from "react";
import { prepareZXingModule, type ReaderOptions, readBarcodes } from "zxing-wasm/reader";
import wasm from "zxing-wasm/reader/zxing_reader.wasm?url";
import { Button } from "../ui/button";

/** Between two looks at the picture, in milliseconds; the same code is heard again once it was gone for so long. */
const EACH = 120;
const GONE = 1_500;
const WIDE = 960;

const READS: ReaderOptions = {
  formats: ["Code128", "EAN13", "EAN8", "UPCA", "ITF", "Code39", "DataMatrix", "QRCode", "DataBar", "DataBarExpanded"],
  tryHarder: true,
  maxNumberOfSymbols: 1,
};

/** What the camera sees, and each code that it reads in it, once. */
export default function CameraView({ onCode, onClose }: { onCode: (code: string) => void; onClose: () => void }) {
  const video = useRef<HTMLVideoElement>(null);
  const heard = useRef(onCode);
  heard.current = onCode;
  const [says, setSays] = useState("Hold the code before the camera.");
  useEffect(() => {
    let over = false;
    let stream: MediaStream | null = null;
    let timer: ReturnType<typeof setTimeout>;
    let last = { text: "", at: 0 };
    const canvas = document.createElement("canvas");
    const look = async () => {
      const v = video.current;
      if (over || !v) return;
      if (v.videoWidth > 0) {
        const text = await readFrame(v, canvas);
        const now = Date.now();
        if (text && !over) {
          if (text !== last.text || now - last.at > GONE) {
            setSays(`Read: ${text}`);
            navigator.vibrate?.(50);
            heard.current(text);
          }
          last = { text, at: now };
        }
      }
      timer = setTimeout(() => void look(), EACH);
    };
    void (async () => {
      try {
        prepareZXingModule({ overrides: { locateFile: (path: string) => (path.endsWith(".wasm") ? wasm : path) } });
        stream = await navigator.mediaDevices.getUserMedia({
          video: { facingMode: "environment", width: { ideal: 1280 } },
        });
        if (over || !video.current) {
          for (const t of stream.getTracks()) t.stop();
          return;
        }
        video.current.srcObject = stream;
        await video.current.play();
        void look();
      } catch {
        if (!over) setSays("The camera cannot be used here: allow it, or type the code.");
      }
    })();
    return () => {
      over = true;
      clearTimeout(timer);
      for (const t of stream?.getTracks() ?? []) t.stop();
    };
  }, []);
  return (
    <div
      role="dialog"
      aria-label="Scan by camera"
      className="fixed inset-x-0 top-0 z-50 mx-auto flex max-w-xl flex-col gap-2 border-2 border-ink bg-sheet p-3"
      onKeyDown={(e) => e.key === "Escape" && onClose()}
    >
      <video
        ref={video}
        playsInline
        muted
        className="max-h-[40vh] w-full bg-ink object-cover"
        aria-label="What the camera sees"
      />
      <p role="status" className="truncate">
        {says}
      </p>
      <Button autoFocus className="max-lg:min-h-12" onClick={onClose}>
        Close the camera
      </Button>
    </div>
  );
}

/** The text of a code in the picture as it is now; empty where there is none. */
async function readFrame(video: HTMLVideoElement, canvas: HTMLCanvasElement): Promise<string> {
  const scale = Math.min(1, WIDE / video.videoWidth);
  canvas.width = Math.round(video.videoWidth * scale);
  canvas.height = Math.round(video.videoHeight * scale);
  const on = canvas.getContext("2d", { willReadFrequently: true });
  if (!on) return "";
  on.drawImage(video, 0, 0, canvas.width, canvas.height);
  const found = await readBarcodes(on.getImageData(0, 0, canvas.width, canvas.height), READS).catch(() => []);
  return found[0]?.text ?? "";
}

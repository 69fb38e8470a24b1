import { useState } from "react";
import { useRevalidator } from "react-router";
import { answerOf } from "../../ui/answer-of";
import { FileEntry } from "../../ui/file-entry";
import { SlipPart } from "../../ui/frame-parts";
import { shrunkPicture } from "../../ui/shrunk-picture";
import { newKey } from "../../ui/submission";

/** Pictures of goods set aside, and where the camera adds one. */
export function AsidePictures({
  aside,
  pictures,
  may,
}: {
  aside: number;
  pictures: readonly { id: number; name: string }[];
  may: boolean;
}) {
  const [says, setSays] = useState<string | null>(null);
  const { revalidate } = useRevalidator();
  const add = async (file: File) => {
    setSays("Keeping the picture…");
    const body = new FormData();
    body.set("file", await shrunkPicture(file));
    body.set("key", newKey());
    const answer = await fetch(`/set-aside/${aside}/picture`, { method: "POST", body })
      .then((a) => answerOf<{ ok: boolean; problems?: { says: string }[] }>(a))
      .catch(() => null);
    setSays(answer?.ok ? null : (answer?.problems?.[0]?.says ?? "No connection: the picture was not kept."));
    if (answer?.ok) await revalidate();
  };
  if (!may && pictures.length === 0) return null;
  return (
    <SlipPart title="Pictures">
      {pictures.length > 0 && (
        <ul className="mb-2 grid grid-cols-3 gap-2">
          {pictures.map((p, i) => (
            <li key={p.id}>
              <a href={`/set-aside/${aside}/picture?picture=${p.id}`} target="_blank" rel="noreferrer">
                <img
                  src={`/set-aside/${aside}/picture?picture=${p.id}`}
                  alt={`${i + 1} of ${pictures.length}: ${p.name}`}
                  className="aspect-square w-full border border-rule object-cover"
                />
              </a>
            </li>
          ))}
        </ul>
      )}
      {may && <FileEntry label="Add a picture" accept=".jpg,.jpeg,.png" onFile={(f) => void add(f)} />}
      <p role="status" className="text-xs font-semibold text-signal">
        {says}
      </p>
    </SlipPart>
  );
}

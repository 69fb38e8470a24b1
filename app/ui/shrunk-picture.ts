/** A picture is sent no larger than this, in dots: enough to see a dent, and quick on a slow connection. */
const MOST_WIDE = 1_600;

/** A picture of a camera as a smaller JPEG; what the browser cannot read goes as it is, for the house to say so. */
export async function shrunkPicture(file: File): Promise<File> {
  const picture = await createImageBitmap(file).catch(() => null);
  if (!picture) return file;
  const scale = Math.min(1, MOST_WIDE / Math.max(picture.width, picture.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.round(picture.width * scale);
  canvas.height = Math.round(picture.height * scale);
  canvas.getContext("2d")?.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, "image/jpeg", 0.82));
  return blob ? new File([blob], file.name.replace(/\.\w+$/, ".jpg"), { type: "image/jpeg" }) : file;
}

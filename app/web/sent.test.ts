import { describe, expect, it } from "vitest";
import { readSent, TooLarge, Upload } from "./sent";

const post = (body: BodyInit, headers: Record<string, string> = {}) =>
  new Request("http://localhost/x", { method: "POST", body, headers, duplex: "half" } as RequestInit);

/** A body that says nothing of its length, and counts how much of it was taken. */
function endless(chunk: Uint8Array) {
  const taken = { bytes: 0 };
  const stream = new ReadableStream<Uint8Array>({
    pull(control) {
      taken.bytes += chunk.length;
      control.enqueue(chunk);
    },
  });
  return { taken, stream };
}

describe("what is sent", () => {
  it("is read as fields, lists and files, the first of each name", async () => {
    const form = new FormData();
    form.append("name", "Bøye");
    form.append("name", "again");
    form.append("roles[]", "buyer");
    form.append("roles[]", "auditor");
    form.append("file", new File(["a,b\n1,2\n"], "prøve.csv"));
    form.append("none", new File([], ""));
    const sent = (await readSent(post(form), 10_000))!;
    expect({ name: sent.name, roles: sent["roles[]"] }).toEqual({ name: "Bøye", roles: ["buyer", "auditor"] });
    expect(sent.file).toBeInstanceOf(Upload);
    expect([(sent.file as Upload).name, Buffer.from((sent.file as Upload).bytes).toString()]).toEqual([
      "prøve.csv",
      "a,b\n1,2\n",
    ]);
    expect((sent.none as Upload).size).toBe(0);
    expect(await readSent(post(new URLSearchParams({ a: "1+1", b: "é" })), 100)).toEqual({ a: "1+1", b: "é" });
    expect(await readSent(post('{"a":[1]}', { "content-type": "application/json" }), 100)).toEqual({ a: [1] });
  });

  it.each([
    ["x=1", { "content-type": "text/plain" }],
    ["[1]", { "content-type": "application/json" }],
    ["{", { "content-type": "application/json" }],
    ["--b\r\nbroken", { "content-type": "multipart/form-data; boundary=b" }],
    ["x", { "content-type": "multipart/form-data" }],
  ])("is nothing where it is no form: %j", async (body, headers) => {
    expect(await readSent(post(body, headers as Record<string, string>), 100)).toBeNull();
  });

  it.each(["application/x-www-form-urlencoded", "application/json", "multipart/form-data; boundary=b"])(
    "is counted as it comes, whatever it says of its length: %s",
    async (type) => {
      const { taken, stream } = endless(new Uint8Array(10_000).fill(97));
      const answer = readSent(post(stream as never, { "content-type": type }), 100_000);
      await expect(answer).rejects.toBeInstanceOf(TooLarge);
      expect(taken.bytes).toBeLessThan(400_000);
    },
  );

  it("with very many fields is refused at once", async () => {
    const body = Array.from({ length: 150_000 }, (_, i) => `f${i}=`).join("&");
    await expect(
      readSent(post(body, { "content-type": "application/x-www-form-urlencoded" }), 25_000_000),
    ).rejects.toBeInstanceOf(TooLarge);
  });
});

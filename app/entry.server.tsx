import { PassThrough } from "node:stream";
import { createReadableStreamFromReadable } from "@react-router/node";
import { isbot } from "isbot";
import { renderToPipeableStream } from "react-dom/server";
import { type EntryContext, type RouterContextProvider, ServerRouter } from "react-router";
import { house } from "./web/house";

export const streamTimeout = 10_000;

export default function handleRequest(
  request: Request,
  status: number,
  headers: Headers,
  entry: EntryContext,
  context: RouterContextProvider,
) {
  const { nonce } = context.get(house);
  return new Promise((resolve, reject) => {
    const ready = isbot(request.headers.get("user-agent") ?? "") ? "onAllReady" : "onShellReady";
    let code = status;
    const { pipe, abort } = renderToPipeableStream(<ServerRouter context={entry} url={request.url} nonce={nonce} />, {
      nonce,
      [ready]() {
        const body = new PassThrough();
        headers.set("Content-Type", "text/html; charset=utf-8");
        headers.set("Cache-Control", "no-store");
        resolve(new Response(createReadableStreamFromReadable(body), { headers, status: code }));
        pipe(body);
      },
      onShellError: reject,
      onError(error: unknown) {
        code = 500;
        context
          .get(house)
          .log.error({ err: error, reference: context.get(house).reference }, "page could not be drawn");
      },
    });
    setTimeout(abort, streamTimeout + 1000).unref();
  });
}

export function handleError(
  error: unknown,
  { request, context }: { request: Request; context: RouterContextProvider },
) {
  if (request.signal.aborted) return;
  const { log, reference, watch } = context.get(house);
  log.error({ err: error, reference }, "fault");
  watch.failed("fault", reference, error);
}

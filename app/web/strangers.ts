import type { ActionFunctionArgs } from "react-router";
import { data } from "react-router";
import type { Trouble } from "./page";
import { MOST_OF_STRANGERS, readSent, type Sent, TooLarge } from "./sent";

/** An action that anybody may send, with a form that is small. */
export function strangersAct<T>(
  run: (args: ActionFunctionArgs, input: Sent) => T | Promise<T>,
  most = MOST_OF_STRANGERS,
): (args: ActionFunctionArgs) => Promise<T> {
  return async (args) => {
    try {
      return await run(args, (await readSent(args.request, most)) ?? {});
    } catch (e) {
      if (e instanceof TooLarge)
        throw data<Trouble>({ says: "This is larger than what is taken here." }, { status: 413 });
      throw e;
    }
  };
}

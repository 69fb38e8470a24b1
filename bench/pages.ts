import { served } from "./serve";

interface Measured {
  path: string;
  took: number;
  floor: number;
}

/** Server time of full pages against the empty page of the same server: the address that nothing stands at. */
export const pageRatio = (folder: string): Promise<Measured[]> =>
  served(folder, async ({ url, cookie }) => {
    const median = async (path: string) => {
      const taken: number[] = [];
      for (let i = 0; i < 25; i++) {
        const from = performance.now();
        const answer = await fetch(url + path, { headers: { cookie } });
        await answer.text();
        if (i >= 5) taken.push(performance.now() - from);
      }
      return taken.sort((a, b) => a - b)[Math.floor(taken.length / 2)]!;
    };
    // The first plan of the day is made beside the server; what is measured here is the page once it stands.
    for (;;) {
      const { working } = (await (await fetch(`${url}/needs/tick`, { headers: { cookie } })).json()) as {
        working: unknown;
      };
      if (!working) break;
    }
    const floor = await median("/nothing-stands-here");
    const measured: Measured[] = [];
    for (const path of ["/needs", "/orders/2400", "/with-suppliers", "/today"])
      measured.push({ path, took: await median(path), floor });
    return measured;
  });

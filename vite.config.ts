import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig, type Plugin } from "vite";

/** The server bundle has two entries, each under its own name: the application, and its worker threads. */
const namedEntries = (): Plugin => ({
  name: "named-entries",
  outputOptions: (options) => (options.dir?.endsWith("server") ? { ...options, entryFileNames: "[name].js" } : options),
});

/** What most pages use comes in one file, and small signs in one: a page that asks for fifty files is slower than one that asks for twenty. */
const CHUNKS = [
  { name: "house", minShareCount: 50 },
  { name: "parts", minShareCount: 5, maxModuleSize: 5_000 },
  { name: "signs", test: /[\\/]@phosphor-icons[\\/]/, minShareCount: 2 },
];

// The server bundle starts at the express application, so that pages and server share one copy of every module.
export default defineConfig(({ isSsrBuild }) => ({
  build: {
    rollupOptions: isSsrBuild
      ? { input: { index: "./app/web/express.ts", worker: "./server/jobs/worker.ts" } }
      : { output: { codeSplitting: { groups: CHUNKS } } },
    sourcemap: false,
  },
  // Of its parts the server loads only those that pages use.
  ssr: { noExternal: [/^@?radix-ui/] },
  plugins: [tailwindcss(), reactRouter(), namedEntries()],
}));

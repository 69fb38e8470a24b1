import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig, type Plugin } from "vite";

/** The server bundle has two entries, each under its own name: the application, and its worker threads. */
const namedEntries = (): Plugin => ({
  name: "named-entries",
  outputOptions: (options) => (options.dir?.endsWith("server") ? { ...options, entryFileNames: "[name].js" } : options),
});

// The server bundle starts at the express application, so that pages and server share one copy of every module.
export default defineConfig(({ isSsrBuild }) => ({
  build: {
    rollupOptions: isSsrBuild ? { input: { index: "./app/web/express.ts", worker: "./server/jobs/worker.ts" } } : {},
    sourcemap: false,
  },
  // Of its parts the server loads only those that pages use.
  ssr: { noExternal: [/^@?radix-ui/] },
  plugins: [tailwindcss(), reactRouter(), namedEntries()],
}));

import { reactRouter } from "@react-router/dev/vite";
import tailwindcss from "@tailwindcss/vite";
import { defineConfig } from "vite";

// The server bundle starts at the express application, so that pages and server share one copy of every module.
export default defineConfig(({ isSsrBuild }) => ({
  build: { rollupOptions: isSsrBuild ? { input: "./app/web/express.ts" } : {}, sourcemap: false },
  plugins: [tailwindcss(), reactRouter()],
}));

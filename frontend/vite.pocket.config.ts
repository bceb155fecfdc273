import { svelte } from "@sveltejs/vite-plugin-svelte";
import { defineConfig } from "vite";

// The pocket sheet's page: one script and one style, which the program puts into the file that a phone takes along.
export default defineConfig({
  plugins: [svelte()],
  publicDir: false,
  define: { "process.env.NODE_ENV": '"production"' },
  build: {
    outDir: "../src/hollow_glint/web/static/pocket",
    emptyOutDir: true,
    lib: {
      entry: "src/pocket/main.ts",
      name: "pocket",
      formats: ["iife"],
      fileName: () => "pocket.js",
      cssFileName: "pocket",
    },
  },
});

import { svelte } from "@sveltejs/vite-plugin-svelte";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [svelte()],
  build: {
    outDir: "../src/hollow_glint/web/static",
    emptyOutDir: true,
    // The page's security policy refuses data: fonts and styles, so nothing is inlined.
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8467" } },
});

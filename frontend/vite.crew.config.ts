import { svelte } from "@sveltejs/vite-plugin-svelte";
import { defineConfig } from "vite";

// The members' page: apart from the host's, so that a member's phone is given nothing of what it may not do.
export default defineConfig({
  plugins: [svelte()],
  publicDir: false,
  base: "/crew/",
  build: {
    outDir: "../src/hollow_glint/web/static/crew",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    rolldownOptions: { input: "crew.html" },
  },
});

import { svelte } from "@sveltejs/vite-plugin-svelte";
import { defineConfig } from "vite";

// One script that leaves every module in `modules`, for a test's blank page.
export default defineConfig({
  plugins: [svelte()],
  publicDir: false,
  build: {
    outDir: "test-build",
    minify: false,
    lib: { entry: "modules.ts", name: "modules", formats: ["iife"], fileName: () => "modules.js" },
  },
});

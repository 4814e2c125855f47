import { existsSync, readFileSync } from "node:fs";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { VitePWA } from "vite-plugin-pwa";
import { defineConfig } from "vitest/config";
import { ahead } from "./ahead.ts";

/** Where the core for the browser lies (tools/pack_core.py); null in the units' tests. */
const pack = existsSync("public/core/pack.json")
  ? (JSON.parse(readFileSync("public/core/pack.json", "utf8")) as { folder: string }).folder
  : null;

export default defineConfig(({ mode }) => ({
  define: { __CORE_FOLDER__: JSON.stringify(mode === "test" ? null : pack) },
  plugins: [
    react(),
    tailwindcss(),
    ahead(),
    VitePWA({
      strategies: "injectManifest",
      srcDir: "src",
      filename: "sw.ts",
      injectRegister: false,
      manifest: {
        name: "Naveta",
        short_name: "Naveta",
        description: "Survey instruments: checked, set up, trusted.",
        start_url: "/",
        display: "standalone",
        background_color: "#f2ede2",
        theme_color: "#10283b",
        id: "/",
        lang: "en",
        icons: [
          { src: "/icon.svg", sizes: "any", type: "image/svg+xml", purpose: "any" },
          { src: "/icon-192.png", sizes: "192x192", type: "image/png", purpose: "any" },
          { src: "/icon-512.png", sizes: "512x512", type: "image/png", purpose: "any" },
          { src: "/icon-maskable-512.png", sizes: "512x512", type: "image/png", purpose: "maskable" },
        ],
      },
      injectManifest: { globPatterns: ["**/*.{js,css,html,svg,png,woff2}"], globIgnores: ["core/**"] },
    }),
  ],
  worker: { format: "es" as const },
  build: {
    // The content policy lets fonts and pictures come from the server only.
    assetsInlineLimit: 0,
    target: "es2022",
    sourcemap: false,
    // What every page begins with is one file, not a dozen: a slow line asks for six at a time. What several places
    // share and is small comes with it.
    modulePreload: { polyfill: false },
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            {
              name: "start",
              test: /src[\\/](main|timers|api[\\/]\w+|hooks[\\/]\w+|app[\\/](App|events|eventKinds|useEach|useDiscard)|ui[\\/](Field|Fold|FileInput|Named|NumberField|permission|useSavedForm|useSaving))\.tsx?$/,
            },
          ],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8000" } },
  test: {
    globals: true,
    css: false,
    reporters: ["default", "./tests/slowest.ts"],
    projects: [
      // What asks nothing of a page runs in Node alone; files that need a document say so by their name.
      {
        extends: true,
        test: {
          name: "units",
          include: ["src/**/*.test.{ts,tsx}"],
          exclude: ["**/*.dom.test.*"],
          environment: "node",
          isolate: false,
        },
      },
      {
        extends: true,
        test: {
          name: "dom",
          include: ["src/**/*.dom.test.{ts,tsx}"],
          environment: "happy-dom",
          setupFiles: ["src/test-setup.ts"],
        },
      },
      {
        extends: true,
        define: { __CORE_FOLDER__: JSON.stringify("node") },
        oxc: { jsx: { runtime: "automatic", development: false } },
        test: {
          name: "pages",
          include: ["tests/**/*.test.{ts,tsx}"],
          environment: "./tests/environment.ts",
          globalSetup: ["tests/global.ts"],
          setupFiles: ["tests/setup.ts"],
          testTimeout: 120_000,
          server: { deps: { external: [/pyodide\.mjs/] } },
          env: { NODE_ENV: "production" },
          isolate: false,
          sequence: { groupOrder: 1 },
          maxWorkers: 2,
        },
      },
    ],
  },
}));

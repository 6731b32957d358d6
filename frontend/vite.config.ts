import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";
import { words } from "./words/plugin.mjs";

// The API runs on its own port while developing; the built app is served by Flask from one address.
const api = process.env.DRYLAMP_API ?? "http://127.0.0.1:8411";

export default defineConfig({
  plugins: [
    words(process.env.DRYLAMP_PO),
    react(),
    VitePWA({
      strategies: "injectManifest",
      srcDir: "src/worker",
      filename: "sw.ts",
      injectRegister: false,
      manifest: false,
      injectManifest: { globPatterns: ["index.html", "manifest.webmanifest", "*.png", "assets/*.{js,css,woff2,svg}"], globIgnores: ["**/*cyrillic*", "**/*vietnamese*"], modifyURLPrefix: { "": "/" } },
    }),
  ],
  server: { host: "127.0.0.1", port: 5173, proxy: { "/api": { target: api, changeOrigin: true, headers: { Origin: api } } } },
  build: {
    outDir: process.env.DRYLAMP_OUT ?? "../src/drylamp/web/static",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            // What every view needs; the rest stays with the views that use it.
            { name: "frame", test: /node_modules[\\/](react|react-dom|scheduler|react-router|@tanstack|@emotion|stylis|openapi-fetch|cookie|set-cookie-parser)[\\/]/ },
          ],
        },
      },
    },
  },
});

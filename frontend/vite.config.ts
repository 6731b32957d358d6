import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";
import { VitePWA } from "vite-plugin-pwa";
import { words } from "./words/plugin.mjs";

// The API runs on its own port while developing; the built app is served by Flask from one address.
const api = process.env.DRYLAMP_API ?? "http://127.0.0.1:8411";

/** Each file a script of its own: they are compiled as they come and run in turns of their own, not all in one that nothing may interrupt. */
const inTurns = (): Plugin => ({
  name: "scripts-in-turns",
  transformIndexHtml: {
    order: "post",
    handler(html) {
      const [entry] = /<script type="module"[^>]*><\/script>/.exec(html)!;
      const turns = html.replace(entry, "").replace(/<link rel="modulepreload"([^>]*?)href=/g, '<script type="module"$1src=').replace(/(<script type="module"[^>]*>)(?!<\/script>)/g, "$1</script>");
      return turns.replace("</head>", `  ${entry}\n  </head>`);
    },
  },
});

export default defineConfig({
  plugins: [
    words(process.env.DRYLAMP_PO),
    react(),
    inTurns(),
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
    manifest: "files.json",
    modulePreload: { polyfill: false },
    rolldownOptions: {
      output: {
        chunkFileNames: ({ name }) => `assets/${name.split("~")[0]}-[hash].js`,
        codeSplitting: {
          // Few files, for each costs a request; but what is compiled at a stroke holds up the page, so they are not one.
          groups: [
            { name: "react", test: /node_modules[\\/](react|react-dom|scheduler)[\\/]/, priority: 3 },
            { name: "frame", test: /node_modules/, tags: ["$initial"], priority: 2 },
            { name: "house", test: /[\\/]src[\\/](?!main)/, tags: ["$initial"], priority: 1 },
          ],
        },
      },
    },
  },
});

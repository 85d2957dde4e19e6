import react from "@vitejs/plugin-react";
import { defineConfig, loadEnv, type Plugin } from "vite";

/** Every browser that runs the rest reads woff2: the older form of each font would only be carried along. */
const woff2Only: Plugin = {
  name: "woff2-only",
  enforce: "pre",
  transform: {
    filter: { id: /@fontsource\/.*\.css$/ },
    handler: (code) => code.replace(/,\s*url\([^)]*\.woff\)\s*format\(["']woff["']\)/g, ""),
  },
};

export default defineConfig(({ mode }) => ({
  plugins: [woff2Only, react()],
  build: {
    outDir: "dist",
    sourcemap: false,
    manifest: false,
    assetsInlineLimit: 0,
    rolldownOptions: {
      output: {
        // Small things that several pages share come as one: a file for each icon would be thirty requests.
        codeSplitting: { groups: [{ name: "shared", test: /\/src\/api\/|lucide-react/, minShareCount: 2 }] },
      },
    },
  },
  // The browser's own Host goes on to the server: it holds it against the Origin of whatever changes something.
  server: {
    proxy: {
      "/api": { target: loadEnv(mode, ".", "SAUCER_").SAUCER_API ?? "http://127.0.0.1:8400", changeOrigin: false },
    },
  },
}));

import "@fontsource-variable/atkinson-hyperlegible-next";
import "@fontsource-variable/bitter";
import "./look/style.css";
import "./look/print.css";
import createCache from "@emotion/cache";
import { CacheProvider } from "@emotion/react";
import { CssBaseline, ThemeProvider } from "@mui/material";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { startTransition, StrictMode, useMemo, useSyncExternalStore } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";
import { App } from "./App";
import { keepBegun } from "./api/begun";
import { NoticesProvider } from "./look/notices";
import { OutboxVoice } from "./parts/OutboxVoice";
import { preload } from "./preload";
import { PrefsProvider, usePrefs } from "./look/prefs";
import { outbox } from "./look/outbox";
import { makeTheme } from "./look/theme";

const queries = new QueryClient({ defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false, staleTime: 10_000 } } });
// In a turn of its own, as whatever is not wanted for the first picture.
setTimeout(() => preload(queries, window.location.href));
outbox.start();
// After the page is there: what is kept for later must not hold up what is wanted now.
if (import.meta.env.PROD && "serviceWorker" in navigator) {
  window.addEventListener("load", () => {
    void navigator.serviceWorker.register("/sw.js").catch(() => undefined);
    void keepBegun().catch(() => undefined);
  });
}

const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content;
// Who writes from right to left gets MUI's own styles mirrored; ours are written without left and right.
async function mirroring() {
  const [{ prefixer }, { default: mirror }] = await Promise.all([import("stylis"), import("@mui/stylis-plugin-rtl")]);
  return { stylisPlugins: [prefixer, mirror] };
}
const mirrored = document.documentElement.dir === "rtl" ? await mirroring() : {};
const cache = createCache({ key: "dl", ...(nonce ? { nonce } : {}), ...mirrored });

const paper = matchMedia("print");
const onPaper = (told: () => void) => {
  paper.addEventListener("change", told);
  return () => paper.removeEventListener("change", told);
};

function Lit() {
  const { dusk } = usePrefs();
  const printed = useSyncExternalStore(onPaper, () => paper.matches);
  const theme = useMemo(() => makeTheme(dusk && !printed), [dusk, printed]);
  return (
    <ThemeProvider theme={theme}>
      <CssBaseline />
      <NoticesProvider>
        <OutboxVoice />
        <App />
      </NoticesProvider>
    </ThemeProvider>
  );
}

const root = createRoot(document.getElementById("root")!);
// In short turns from the first picture on.
startTransition(() =>
  root.render(
    <StrictMode>
      <CacheProvider value={cache}>
        <QueryClientProvider client={queries}>
          <BrowserRouter>
            <PrefsProvider>
              <Lit />
            </PrefsProvider>
          </BrowserRouter>
        </QueryClientProvider>
      </CacheProvider>
    </StrictMode>,
  ),
);

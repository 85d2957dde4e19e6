import "@fontsource/hanken-grotesk/400.css";
import "@fontsource/hanken-grotesk/500.css";
import "@fontsource/hanken-grotesk/600.css";
import "@fontsource/ibm-plex-mono/400.css";
import "@fontsource/ibm-plex-mono/500.css";
import { createGlobalStyle } from "styled-components";

export const GlobalStyle = createGlobalStyle`
  *, *::before, *::after { box-sizing: border-box; }
  html, body, #root { height: 100%; }
  html { color-scheme: ${(p) => p.theme.page}; }
  body {
    margin: 0; background: ${(p) => p.theme.tokens.paper}; color: ${(p) => p.theme.tokens.ink};
    font: ${(p) => p.theme.tokens.size.text}/1.35 ${(p) => p.theme.tokens.words}; font-synthesis: none; -webkit-font-smoothing: antialiased;
  }
  /* Names are written by people: one that turns the direction of writing turns only itself. */
  b, a, span, small, button, bdi { unicode-bidi: isolate; }
  button, input, select, textarea { font: inherit; color: inherit; }
  h1, h2, h3, p { margin: 0; font-weight: inherit; font-size: inherit; }
  a { color: ${(p) => p.theme.tokens.accent}; text-decoration: none; }
  :focus { outline: none; }
  :focus-visible, [data-focus-visible] { outline: 2px solid ${(p) => p.theme.tokens.accent}; outline-offset: 2px; }
  /* What a walk through the page is about just now. */
  [data-station][data-shown] { outline: 2px solid ${(p) => p.theme.tokens.accent}; outline-offset: 3px; }
  @media (prefers-reduced-motion: reduce) { *, *::before, *::after { transition: none !important; animation: none !important; } }
`;

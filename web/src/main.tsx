import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Problem } from "./api/client";
import { App } from "./App";
import { GlobalStyle } from "./theme/GlobalStyle";
import { SurroundProvider } from "./theme/surround";

const client = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 5_000,
      retry: (count, error) => count < 2 && !(error instanceof Problem && error.status < 500),
    },
  },
});
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <SurroundProvider>
          <GlobalStyle />
          <App />
        </SurroundProvider>
      </QueryClientProvider>
    </StrictMode>,
  );
}

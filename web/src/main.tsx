import "@fontsource-variable/archivo";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { BrowserRouter } from "react-router";

import { App } from "./shell/App";
import { PlintoTheme } from "./theme";

const client = new QueryClient({
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false, staleTime: 5_000 } },
});

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <PlintoTheme>
          <BrowserRouter>
            <App />
          </BrowserRouter>
        </PlintoTheme>
      </QueryClientProvider>
    </StrictMode>,
  );
}

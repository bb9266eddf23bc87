import "@fontsource-variable/archivo";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";

import { App } from "./app/App";
import { PlintoTheme } from "./theme";

const client = new QueryClient({
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false, staleTime: 5_000 } },
});

// One route for all: the application has its own, and a router of this kind can ask before leaving.
const router = createBrowserRouter([{ path: "*", element: <App /> }]);

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <PlintoTheme>
          <RouterProvider router={router} />
        </PlintoTheme>
      </QueryClientProvider>
    </StrictMode>,
  );
}

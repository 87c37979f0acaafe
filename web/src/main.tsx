import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { RouterProvider } from "react-router";
import { queries } from "./api/queries";
import { visitorQuery } from "./api/session";
import { router } from "./router";
import "./theme.css";
import { followFocusRule } from "./ui/focus-rule";
import { Notices } from "./ui/notices";
import { applyTheme } from "./ui/theme";

applyTheme();
followFocusRule();
// Asked before anything is drawn: the first screen waits for nothing else. Whoever comes by a link
// signs in nowhere.
if (!/^\/(fill|embed)\//.test(window.location.pathname)) queries.prefetchQuery(visitorQuery);

const root = document.getElementById("root");
if (root)
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={queries}>
        <Notices>
          <RouterProvider router={router} />
        </Notices>
      </QueryClientProvider>
    </StrictMode>,
  );

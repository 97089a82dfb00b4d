import "@fontsource/alegreya-sans/400.css";
import "@fontsource/alegreya-sans/500.css";
import "@fontsource/alegreya-sans/700.css";
import "@fontsource-variable/spline-sans-mono/index.css";
import "./styles.css";

import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";

import { ArenaPage } from "./arena/arena-page";
import { BesidePage } from "./beside/beside-page";
import { Door } from "./door/door";
import { MePage } from "./door/me-page";
import { DeskPage } from "./desk/desk-page";
import { FilmingPage } from "./filming/filming-page";
import { GroundPage } from "./ground/ground-page";
import { RecordPage } from "./record/record-page";
import { SessionPage } from "./session/session-page";
import { SetupPage } from "./setup/setup-page";
import { Lost } from "./ui/lost";
import { YardPage } from "./yard/yard-page";

const client = new QueryClient({
  defaultOptions: { queries: { retry: 1, refetchOnWindowFocus: false } },
});

const router = createBrowserRouter([
  { path: "/", element: <YardPage />, errorElement: <Lost /> },
  { path: "/clips/:clip", element: <DeskPage />, errorElement: <Lost /> },
  { path: "/clips/:clip/ground", element: <GroundPage />, errorElement: <Lost /> },
  { path: "/arena", element: <ArenaPage />, errorElement: <Lost /> },
  { path: "/horses/:horse", element: <RecordPage />, errorElement: <Lost /> },
  { path: "/beside", element: <BesidePage />, errorElement: <Lost /> },
  { path: "/sessions/:session", element: <SessionPage />, errorElement: <Lost /> },
  { path: "/filming", element: <FilmingPage />, errorElement: <Lost /> },
  { path: "/setup", element: <SetupPage />, errorElement: <Lost /> },
  { path: "/me", element: <MePage />, errorElement: <Lost /> },
  { path: "*", element: <Lost /> },
]);

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={client}>
        <Door>
          <RouterProvider router={router} />
        </Door>
      </QueryClientProvider>
    </StrictMode>,
  );
}

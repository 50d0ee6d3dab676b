import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { Problem } from "./api/client";
import { App, NoSuchPage } from "./App";
import { AirPlace } from "./places/Air/Air";
import { BayFocus } from "./places/Bench/BayFocus";
import { Bench } from "./places/Bench/Bench";
import { CoolersPlace } from "./places/Coolers/Coolers";
import { PartsPlace } from "./places/Coolers/Parts";
import { HandoverPlace } from "./places/Handover/Handover";
import { JobsPlace } from "./places/Jobs/Jobs";
import { JobTagPlace } from "./places/JobTag/JobTag";
import { JobSheetPlace } from "./places/JobSheet/JobSheet";
import { applyKeptTheme } from "./parts/theme";
import "./tokens.css";

applyKeptTheme();

const queries = new QueryClient({
  defaultOptions: {
    // The server is on this machine or near: whether a browser believes to be online says nothing about it.
    mutations: { networkMode: "always" },
    queries: {
      networkMode: "always",
      retry: (count, failure) => failure instanceof Problem && failure.mayPass && count < 3,
      retryDelay: 1000,
    },
  },
});

const router = createBrowserRouter([
  {
    element: <App />,
    errorElement: <NoSuchPage />,
    children: [
      { index: true, element: <Bench /> },
      { path: "bench", element: <Bench /> },
      { path: "bench/:number", element: <BayFocus /> },
      { path: "coolers", element: <CoolersPlace /> },
      { path: "coolers/parts", element: <PartsPlace /> },
      { path: "air", element: <AirPlace /> },
      { path: "jobs", element: <JobsPlace /> },
      { path: "jobs/:id", element: <JobSheetPlace /> },
      { path: "jobs/:id/tag", element: <JobTagPlace /> },
      { path: "jobs/:id/handover", element: <HandoverPlace /> },
      { path: "*", element: <NoSuchPage /> },
    ],
  },
]);

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);

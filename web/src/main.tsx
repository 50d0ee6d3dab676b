import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, RouterProvider } from "react-router";
import { base } from "./api/base";
import { door, Problem } from "./api/client";
import { others } from "./api/degrees";
import { sessionKey } from "./api/session";
import { App, NoSuchPage, PlaceFailed } from "./App";
import { AccountPlace } from "./places/Account/Account";
import { AirPlace } from "./places/Air/Air";
import { BayFocus } from "./places/Bench/BayFocus";
import { Bench } from "./places/Bench/Bench";
import { CoolersPlace } from "./places/Coolers/Coolers";
import { PartsPlace } from "./places/Coolers/Parts";
import { DecidePlace } from "./places/Decide/DecidePlace";
import { HandoverPlace } from "./places/Handover/Handover";
import { PapersPlace } from "./places/Papers/PapersPlace";
import { DayPlace } from "./places/Jobs/Day";
import { JobsPlace } from "./places/Jobs/Jobs";
import { BagLabel } from "./places/JobTag/BagLabel";
import { JobTagPlace } from "./places/JobTag/JobTag";
import { JobSheetPlace } from "./places/JobSheet/JobSheet";
import { DebriefPlace } from "./places/Practice/Debrief";
import { PracticePlace } from "./places/Practice/Practice";
import { RepairPlace } from "./places/Repair/RepairPlace";
import { RecordsPlace } from "./places/Records/Records";
import { JoinPlace } from "./places/SignIn/Join";
import { askForProof } from "./places/SignIn/proof";
import { LogPlace } from "./places/Workshop/Log";
import { WorkshopPlace } from "./places/Workshop/Workshop";
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

door.prove = askForProof;
others.came = () => void queries.invalidateQueries();
door.shut = () => void queries.invalidateQueries({ queryKey: sessionKey });

/** A fault in one place leaves the others, and the way to them, as they are. */
const at = (path: string, element: React.ReactNode) => ({ path, element, errorElement: <PlaceFailed /> });

const router = createBrowserRouter(
  [
    at("join", <JoinPlace />),
    {
      element: <App />,
      errorElement: <PlaceFailed />,
      children: [
        { index: true, element: <Bench />, errorElement: <PlaceFailed /> },
        at("bench", <Bench />),
        at("bench/:number", <BayFocus />),
        at("coolers", <CoolersPlace />),
        at("coolers/parts", <PartsPlace />),
        at("air", <AirPlace />),
        at("jobs", <JobsPlace />),
        at("jobs/day", <DayPlace />),
        at("jobs/:id", <JobSheetPlace />),
        at("jobs/:id/tag", <JobTagPlace />),
        at("jobs/:id/decide", <DecidePlace />),
        at("jobs/:id/repair", <RepairPlace />),
        at("jobs/:id/bag", <BagLabel />),
        at("jobs/:id/handover", <HandoverPlace />),
        at("jobs/:id/papers", <PapersPlace />),
        at("records", <RecordsPlace />),
        at("practice", <PracticePlace />),
        at("practice/:id", <DebriefPlace />),
        at("workshop", <WorkshopPlace />),
        at("workshop/log", <LogPlace />),
        at("account", <AccountPlace />),
        { path: "*", element: <NoSuchPage /> },
      ],
    },
  ],
  { basename: base || "/" },
);

createRoot(document.getElementById("root")!).render(
  <StrictMode>
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </StrictMode>,
);

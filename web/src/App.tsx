import clsx from "clsx";
import { Keyboard, MoonStar, Sun } from "lucide-react";
import { Popover } from "radix-ui";
import { useEffect, useRef, useState } from "react";
import { Link, NavLink, Outlet, ScrollRestoration, useLocation, useNavigate, useRouteError } from "react-router";
import { useBays } from "./api/bays";
import { useOlderThanServer } from "./api/build";
import { tellFor } from "./api/degrees";
import { useLiveBays } from "./api/live";
import type { Me } from "./api/client";
import { useSession } from "./api/session";
import { Button } from "./parts/Button";
import { draftsAreOf } from "./parts/saving";
import { Failing, Loading } from "./parts/States";
import { shortcutList, useShortcuts } from "./parts/shortcuts";
import { useTheme } from "./parts/theme";
import { Told } from "./parts/Told";
import { useTitleNotice } from "./parts/useTitle";
import { useRinging, wantOf } from "./places/Bench/notices";
import { PracticeBanner } from "./places/Practice/AtPractice";
import { ProveAgain } from "./places/SignIn/ProveAgain";
import { SignIn } from "./places/SignIn/SignIn";
import { WhoIsHere } from "./places/SignIn/WhoIsHere";

/** The rail of places and, beside it, the place at hand. Only places that exist stand here. */
const places = [
  { path: "/bench", title: "Bench", key: "b" },
  { path: "/jobs", title: "Jobs", key: "j" },
  { path: "/coolers", title: "Coolers", key: "c" },
  { path: "/air", title: "Air", key: "a" },
  { path: "/records", title: "Records", key: "r" },
  { path: "/practice", title: "Practice", key: "p" },
  { path: "/workshop", title: "Workshop", key: "w" },
] as const;

/** In practice there is a machine and what is needed for it. */
const inPractice: readonly string[] = ["/bench", "/jobs", "/coolers", "/air"];

/** Set once, looked up now and then, or done in a quiet hour: for a desk, and not for a phone at the bench. */
const forADesk: readonly string[] = ["/workshop", "/records", "/practice"];

/** Whoever is signed in sees the places; whoever is not, the way in. */
export function App() {
  const session = useSession();
  if (session.data) {
    return session.data.me ? (
      <Places key={session.data.me.temperatureUnit} me={session.data.me} />
    ) : (
      <SignIn session={session.data} />
    );
  }
  return session.isError ? (
    <Failing sentence={session.error.message} onRetry={() => void session.refetch()} />
  ) : (
    <Loading what="the workshop" />
  );
}

function Places({ me }: { me: Me }) {
  const navigate = useNavigate();
  draftsAreOf(me);
  tellFor(me);
  const [listing, setListing] = useState(false);
  const here = places.filter((place) => !me.practises || inPractice.includes(place.path));
  useShortcuts({
    ...Object.fromEntries(here.map((place) => [`g ${place.key}`, () => void navigate(place.path)])),
    "?": () => setListing((open) => !open),
  });
  return (
    <>
      <a
        href="#place"
        className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-card focus:p-4 focus:text-teal"
      >
        To the page itself
      </a>
      <div className="min-h-dvh md:grid md:grid-cols-[92px_minmax(0,1fr)] print:block">
        <nav
          aria-label="Places"
          className="no-print flex items-center gap-1 border-b border-hairline md:sticky md:top-0 md:h-dvh md:flex-col md:items-stretch md:border-r md:border-b-0"
        >
          <Link to="/bench" className="px-2 py-4 text-center font-bold md:mb-2 md:px-3">
            Remedos
          </Link>
          {here.map((place) => (
            <NavLink
              key={place.path}
              to={place.path}
              className={({ isActive }) =>
                clsx(
                  "min-h-14 items-center justify-center px-2 md:flex md:border-l-4 md:px-4",
                  forADesk.includes(place.path) ? "hidden" : "flex",
                  isActive ? "border-teal font-bold text-teal" : "border-transparent text-muted",
                )
              }
            >
              {place.title}
            </NavLink>
          ))}
          <div className="ml-auto flex md:mt-auto md:ml-0 md:flex-col md:items-center md:pb-3">
            {/* A phone is narrow, and has no keys; its theme stands under whoever works here. */}
            <span className="hidden md:flex md:flex-col">
              <ThemeButton />
              <ShortcutsButton open={listing} onOpen={setListing} />
            </span>
            {!me.practises && <WhoIsHere me={me} />}
          </div>
        </nav>
        <main id="place" tabIndex={-1} className="min-w-0 outline-none">
          {me.practises && <PracticeBanner />}
          <OlderNotice />
          <BenchNotice />
          {me.rights === "reader" && (
            <p className="no-print m-0 border-b border-hairline bg-card px-4 py-2 md:px-7">
              {me.name} looks on here: everything can be read, and nothing is changed.
            </p>
          )}
          <Outlet />
        </main>
        <Told />
        <ProveAgain />
        <ScrollRestoration />
        <FocusOnTheWay />
      </div>
    </>
  );
}

/** The server was renewed while this page stood open: what it shows and sends may be of before. */
function OlderNotice() {
  return useOlderThanServer() ? (
    <p
      role="status"
      className="no-print m-0 flex flex-wrap items-center gap-x-4 border-b border-hairline bg-card px-4 py-1 md:px-7"
    >
      Remedos was renewed, and this page is older than its server. What you typed is kept.
      <Button kind="plain" onClick={() => location.reload()}>
        Load the page anew
      </Button>
    </p>
  ) : null;
}

/** Another page begins at its heading, for those who hear it as for those who see it. */
function FocusOnTheWay() {
  const { pathname } = useLocation();
  const before = useRef(pathname);
  useEffect(() => {
    if (before.current !== pathname) {
      before.current = pathname;
      document.getElementById("place")?.focus({ preventScroll: true });
    }
  }, [pathname]);
  return null;
}

/** Follows the bays on every page, and says where a hand is wanted when that is not on this one. */
function BenchNotice() {
  useLiveBays();
  const bays = useBays();
  const { pathname } = useLocation();
  useRinging(bays.data);
  const waiting = bays.data?.filter((bay) => bay.run?.stage === "hand") ?? [];
  useTitleNotice(
    waiting.length === 0 ? undefined : `${waiting.map((bay) => `Bay ${bay.number}`).join(", ")} waits for a hand`,
  );
  const bay = waiting[0];
  return bay && !/^\/(bench|$)/.test(pathname) ? (
    <p role="status" className="no-print m-0 border-b border-hairline bg-card px-4 py-1 md:px-7">
      <Link
        to={`/bench/${bay.number}`}
        className="inline-flex min-h-11 items-center font-semibold text-amber underline"
      >
        {wantOf(bay)}
      </Link>
    </p>
  ) : null;
}

const railButton = "flex min-h-11 min-w-11 items-center justify-center text-muted";

function ThemeButton() {
  const { dark, toggle } = useTheme();
  const Icon = dark ? Sun : MoonStar;
  return (
    <button type="button" className={railButton} aria-label={dark ? "Light theme" : "Dark theme"} onClick={toggle}>
      <Icon size={22} aria-hidden="true" />
    </button>
  );
}

function ShortcutsButton({ open, onOpen }: { open: boolean; onOpen: (open: boolean) => void }) {
  return (
    <Popover.Root open={open} onOpenChange={onOpen}>
      <Popover.Trigger className={railButton} aria-label="Shortcuts">
        <Keyboard size={22} aria-hidden="true" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          side="right"
          align="end"
          sideOffset={8}
          collisionPadding={12}
          className="z-30 w-80 border border-edge bg-card p-5"
        >
          <h2 className="mb-2 text-xl font-bold">Shortcuts</h2>
          <dl className="m-0">
            {shortcutList.map(([keys, words]) => (
              <div key={keys} className="flex items-baseline justify-between border-t border-hairline py-2">
                <dt>{words}</dt>
                <dd className="m-0 font-mono">{keys}</dd>
              </div>
            ))}
          </dl>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

export function NoSuchPage() {
  return (
    <Failing sentence="There is nothing at this address.">
      <Link to="/jobs" className="text-teal underline underline-offset-4">
        Go to the jobs
      </Link>
    </Failing>
  );
}

/** A place that has failed, in a sentence; the rest of Remedos goes on. */
export function PlaceFailed() {
  const failure = useRouteError();
  useEffect(() => console.error(failure), [failure]);
  return (
    <Failing sentence="This page could not be drawn. Nothing was lost: what was saved is saved.">
      <Button kind="main" onClick={() => location.reload()}>
        Load it anew
      </Button>
      <Link to="/jobs" className="inline-flex min-h-11 items-center text-teal underline underline-offset-4">
        Go to the jobs
      </Link>
    </Failing>
  );
}

import { Bell, BellOff, CalendarClock } from "lucide-react";
import { useCallback, useState } from "react";
import { Link } from "react-router";
import { useBayActions, useBays } from "../../api/bays";
import type { JobTag } from "../../api/client";
import { useJobList } from "../../api/jobs";
import { useWatched } from "../../api/live";
import { Button, buttonLook } from "../../parts/Button";
import { Failing, Loading } from "../../parts/States";
import { telling } from "../../parts/told";
import { useShortcuts } from "../../parts/shortcuts";
import { useTitle } from "../../parts/useTitle";
import { TouchNow } from "../Jobs/TouchNow";
import { BayCard } from "./BayCard";
import { isRunning } from "./BayFigures";
import { useSound } from "./notices";

const none: readonly JobTag[] = [];

/** All bays at a glance: which machine, what it does, how hot against its limit, what it waits for. */
export function Bench() {
  const bays = useBays();
  const jobs = useJobList("");
  const actions = useBayActions();
  const [open, setOpen] = useState<string>();
  const [sound, setSound] = useSound();
  const all = bays.data ?? [];
  const waiting = all.filter((bay) => bay.run?.stage === "hand").length;
  const going = all.filter(isRunning).length;
  const free = all.some((bay) => bay.online && !isRunning(bay));
  useTitle("Bench");
  useWatched(all.map((bay) => bay.id));
  const onStarting = useCallback(
    (id: string, wanted: boolean) => setOpen((now) => (wanted ? id : now === id ? undefined : now)),
    [],
  );
  const move = (step: number) => {
    const cards = [...document.querySelectorAll<HTMLElement>("[data-bay]")];
    const at = cards.findIndex((card) => card === document.activeElement);
    cards[Math.min(cards.length - 1, Math.max(0, at + step))]?.focus();
  };
  const inFocus = () => {
    const number = document.activeElement?.closest<HTMLElement>("[data-bay]")?.dataset.bay;
    return all.find((bay) => String(bay.number) === number);
  };
  useShortcuts({
    j: () => move(1),
    k: () => move(-1),
    " ": () => {
      const bay = inFocus();
      if (bay && isRunning(bay)) {
        telling(actions.stop(bay.id), "The run was not stopped.");
      } else if (bay?.online) {
        setOpen(bay.id);
      }
    },
  });
  if (bays.isError && !bays.data) {
    return <Failing sentence={bays.error.message} onRetry={() => void bays.refetch()} />;
  }
  if (!bays.data) {
    return <Loading what="the bays" />;
  }
  return (
    <div className="px-4 py-5 md:px-7">
      <header className="mb-4 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h1 className="grow text-xl font-bold">
          {all.length === 0
            ? "No bays yet"
            : waiting > 0
              ? `${waiting === 1 ? "A bay waits" : `${waiting} bays wait`} for a hand`
              : going > 0
                ? `${going} of ${all.length} bays run`
                : free
                  ? "The bench is free"
                  : "Nothing is connected"}
        </h1>
        <Button aria-pressed={sound} onClick={() => setSound(!sound)}>
          {sound ? <Bell size={20} aria-hidden="true" /> : <BellOff size={20} aria-hidden="true" />}
          {sound ? "Rings" : "Silent"}
        </Button>
        <Button onClick={() => telling(actions.add(), "No bay was added.")}>Add a bay</Button>
      </header>
      <div className="mb-5 flex flex-wrap items-end gap-x-6 gap-y-2 border-l-4 border-teal pl-4">
        <div className="grow">
          <TouchNow large />
        </div>
        <Link to="/jobs/day" className={buttonLook("plain")}>
          <CalendarClock size={20} aria-hidden="true" /> The whole day
        </Link>
      </div>
      {bays.isError && (
        <p role="alert" className="mb-3 font-semibold text-amber">
          The bays may be out of date: {bays.error.message}
        </p>
      )}
      {all.length === 0 && (
        <p className="max-w-prose text-lg">
          A bay is a place on the bench where a machine under test sends its readings. Add one, and connect a machine to
          it with the token that its card makes.
        </p>
      )}
      <div className="grid grid-cols-1 gap-5 lg:grid-cols-2">
        {all.map((bay) => (
          <BayCard
            key={bay.id}
            bay={bay}
            jobs={jobs.data ?? none}
            actions={actions}
            starting={open === bay.id}
            onStarting={onStarting}
          />
        ))}
      </div>
    </div>
  );
}

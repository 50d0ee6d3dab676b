import { useState } from "react";
import { useBayActions, useBays } from "../../api/bays";
import { useJobList } from "../../api/jobs";
import { Button } from "../../parts/Button";
import { Failing, Loading } from "../../parts/States";
import { useTitle } from "../../parts/useTitle";
import { BayCard } from "./BayCard";

/** All bays at a glance: which machine, what it does, how hot against its limit, what it waits for. */
export function Bench() {
  const bays = useBays();
  const jobs = useJobList("");
  const actions = useBayActions();
  const [open, setOpen] = useState<string>();
  const waiting = bays.data?.filter((bay) => bay.online && (!bay.run || bay.run.over)).length ?? 0;
  const going = bays.data?.filter((bay) => bay.run && !bay.run.over).length ?? 0;
  useTitle(going > 0 ? `${going} running` : "Bench");
  if (bays.isError && !bays.data) {
    return <Failing sentence={bays.error.message} onRetry={() => void bays.refetch()} />;
  }
  if (!bays.data) {
    return <Loading what="the bays" />;
  }
  return (
    <div className="px-4 py-5 md:px-7">
      <header className="mb-4 flex flex-wrap items-center gap-x-6 gap-y-2">
        <h1 className="grow text-3xl font-bold">
          {bays.data.length === 0
            ? "No bays yet"
            : going > 0
              ? `${going} of ${bays.data.length} bays run`
              : waiting > 0
                ? "The bench is free"
                : "Nothing is connected"}
        </h1>
        <Button onClick={() => void actions.add()}>Add a bay</Button>
      </header>
      {bays.isError && (
        <p role="alert" className="mb-3 font-semibold text-amber">
          The bays may be old: {bays.error.message}
        </p>
      )}
      {bays.data.length === 0 && (
        <p className="max-w-prose text-lg">
          A bay is a place on the bench where a machine under test sends its readings. Add one, and send to it with the
          token on its card.
        </p>
      )}
      <div className="grid grid-cols-1 gap-5 lg:grid-cols-2">
        {bays.data.map((bay) => (
          <BayCard
            key={bay.id}
            bay={bay}
            jobs={jobs.data ?? []}
            actions={actions}
            starting={open === bay.id}
            onStarting={(wanted) => setOpen((now) => (wanted ? bay.id : now === bay.id ? undefined : now))}
          />
        ))}
      </div>
    </div>
  );
}

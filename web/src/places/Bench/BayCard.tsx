import clsx from "clsx";
import { memo } from "react";
import { Link } from "react-router";
import type { Bay, BayActions } from "../../api/bays";
import type { JobTag } from "../../api/client";
import { BayTrace } from "../../pictures/BayTrace";
import { BayFigures, BayHeading, BayPicture, BaySays } from "./BayFigures";
import { Join } from "./Join";
import { RunControls } from "./RunControls";

/** One bay, readable from a metre away: its number, how hot, what it does and what it waits for. */
export const BayCard = memo(function BayCard({
  bay,
  jobs,
  actions,
  starting,
  onStarting,
}: {
  bay: Bay;
  jobs: readonly JobTag[];
  actions: BayActions;
  starting: boolean;
  onStarting: (id: string, wanted: boolean) => void;
}) {
  return (
    <article
      aria-label={`Bay ${bay.number}`}
      data-bay={bay.number}
      tabIndex={-1}
      className={clsx(
        "border bg-card p-4 focus:outline-2 focus:outline-offset-2 focus:outline-teal",
        bay.run?.stage === "hand" ? "border-amber" : "border-hairline",
      )}
    >
      <BayHeading bay={bay} jobs={jobs}>
        <h2 className="text-xl font-bold">
          <Link
            to={`/bench/${bay.number}`}
            className="-my-2 inline-block py-2 underline decoration-1 underline-offset-4"
          >
            Bay {bay.number}
          </Link>
        </h2>
      </BayHeading>
      <BayFigures bay={bay} />
      <BaySays bay={bay} />
      <BayPicture bay={bay}>
        {(readings) => <BayTrace readings={readings} limitC={bay.run?.limitC ?? null} />}
      </BayPicture>
      {bay.note && <p className="my-2 border-l-4 border-amber pl-3">{bay.note}</p>}
      {!bay.online && <Join bay={bay} />}
      <RunControls
        bay={bay}
        jobs={jobs}
        actions={actions}
        starting={starting}
        onStarting={(wanted) => onStarting(bay.id, wanted)}
      />
    </article>
  );
});

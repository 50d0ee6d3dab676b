import clsx from "clsx";
import { Link } from "react-router";
import type { JobTag } from "../../api/client";
import { ago, keepUnits } from "../../parts/words";
import { HeatStaircase } from "../../pictures/HeatStaircase";
import { waitWords, wantsHand } from "../../parts/waits";

/** A machine as the paper tag that hangs on it: its number, what is the matter, what comes next. */
export function Tag({ tag }: { tag: JobTag }) {
  const { lead, claim, rest } = tag.headline;
  return (
    <Link
      to={`/jobs/${tag.id}`}
      className="flex h-full min-h-48 flex-col border border-hairline bg-card px-4 pt-3 pb-3 hover:border-edge"
    >
      <span className="flex items-center gap-3">
        <svg width="16" height="16" aria-hidden="true" className="shrink-0">
          <circle cx="8" cy="8" r="7" className="fill-paper stroke-edge" />
        </svg>
        <span className="font-mono font-bold">{tag.tag}</span>
        <span
          className={clsx(
            "ml-auto px-2",
            wantsHand(tag.waitsFor) ? "bg-teal-soft font-semibold text-ink" : "text-muted",
          )}
        >
          {waitWords(tag.waitsFor)}
        </span>
      </span>
      <strong className="mt-2 line-clamp-3 text-xl leading-tight font-bold">
        {keepUnits(`${lead} ${claim}${rest}`)}
      </strong>
      <span className="mt-2 line-clamp-2 text-muted">
        {[tag.owner, tag.machine].filter(Boolean).join(" · ") || "Owner and machine not noted yet"}
      </span>
      {tag.staircase && (
        <span className="mt-auto block pt-3">
          <HeatStaircase now={tag.staircase} limitC={tag.limitC} small />
        </span>
      )}
      <span className="mt-auto flex items-baseline gap-3 pt-3">
        <span className="min-w-0 truncate">{tag.waitsFor === "done" ? "" : tag.nowTitle}</span>
        <span className="ml-auto shrink-0 text-sm text-muted">{ago(tag.changedAt)}</span>
      </span>
    </Link>
  );
}

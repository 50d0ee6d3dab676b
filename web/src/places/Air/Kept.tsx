import { Button } from "../../parts/Button";
import type { Plan } from "./usePlan";

/** Whether the plan is kept on its job, and what to do when it is not. */
export function Kept({ plan: { keeping, again, takeTheirs, keepMine } }: { plan: Plan }) {
  switch (keeping.kind) {
    case "waiting":
    case "saving":
      return <p className="m-0 text-muted">Keeping it …</p>;
    case "saved":
      return (
        <p role="status" className="m-0 text-muted">
          Kept on the job.
        </p>
      );
    case "unsaved":
    case "wrong":
      return (
        <div role="alert" className="border-l-4 border-amber pl-3">
          <p className="m-0">Not kept. {keeping.sentence}</p>
          <Button onClick={again}>Try again</Button>
        </div>
      );
    case "conflict":
      return (
        <div role="alert" className="border-l-4 border-amber pl-3">
          <p className="m-0">{keeping.by ?? "Somebody else"} has changed this plan meanwhile.</p>
          <div className="mt-2 flex flex-wrap gap-3">
            <Button onClick={keepMine}>Keep mine</Button>
            <Button onClick={takeTheirs}>Take theirs</Button>
          </div>
        </div>
      );
    default:
      return null;
  }
}

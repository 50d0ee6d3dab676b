import { X } from "lucide-react";
import { Button } from "./Button";
import { putAway, useTold } from "./told";

/** What went wrong and belongs to no field, at the foot of every page. */
export function Told() {
  const told = useTold();
  return (
    <div className="no-print fixed right-4 bottom-4 z-40 grid max-w-lg gap-2">
      {told.map(({ id, sentence }) => (
        <p
          key={id}
          role="alert"
          className="m-0 flex items-center gap-3 border border-amber bg-card py-1 pl-4 font-semibold text-amber"
        >
          <span className="grow py-2">{sentence}</span>
          <Button kind="quiet" aria-label="Dismiss" onClick={() => putAway(id)}>
            <X size={20} aria-hidden="true" />
          </Button>
        </p>
      ))}
    </div>
  );
}

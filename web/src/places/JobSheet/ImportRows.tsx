import { Progress } from "radix-ui";
import type { ReactNode } from "react";
import type { ImportAnswer } from "../../api/client";
import type { JobActions } from "../../api/jobs";
import { Button } from "../../parts/Button";
import { telling } from "../../parts/told";
import { ImportColumnDesk } from "./ColumnDesk";
import type { Sending } from "./useImports";

/** Logs on their way, each with how far it is and a way to stop it; those that failed say why. */
export function ImportRows({
  sending,
  imports,
  actions,
}: {
  sending: readonly Sending[];
  imports: readonly ImportAnswer[];
  actions: JobActions;
}) {
  return (
    <ul className="m-0 list-none p-0">
      {sending.map((one) => (
        <Row
          key={`s${one.id}`}
          name={one.name}
          doing={one.share >= 1 ? "Keeping" : "Sending"}
          share={one.share}
          problem={one.problem}
          onStop={one.stop}
        />
      ))}
      {imports.map((one) => (
        <Row
          key={one.id}
          name={one.fileName}
          doing={one.state === "queued" ? "Waiting to read" : "Reading"}
          share={one.bytesTotal > 0 ? one.bytesRead / one.bytesTotal : 0}
          problem={one.state === "failed" ? (one.problem ?? "It could not be read.") : undefined}
          onStop={() => telling(actions.stopImport(one.id), "The import could not be stopped.")}
        >
          {one.columnsHelp && <ImportColumnDesk importId={one.id} actions={actions} />}
        </Row>
      ))}
    </ul>
  );
}

function Row({
  name,
  doing,
  share,
  problem,
  onStop,
  children,
}: {
  name: string;
  doing: string;
  share: number;
  problem?: string;
  onStop: () => void;
  children?: ReactNode;
}) {
  const percent = Math.min(100, Math.round(share * 100));
  if (problem) {
    return (
      <li role="alert" className="my-3 flex flex-wrap items-center gap-3 border-l-4 border-amber pl-3">
        <p className="m-0 grow basis-80">
          <strong>Not read.</strong> {problem}
        </p>
        <Button onClick={onStop}>Dismiss</Button>
        {children && <div className="basis-full">{children}</div>}
      </li>
    );
  }
  return (
    <li className="my-3 flex items-center gap-3">
      <div className="grow">
        <div className="flex justify-between">
          <span>
            {doing} {name}
          </span>
          <span className="font-mono">{percent} %</span>
        </div>
        <Progress.Root value={percent} aria-label={`${doing} ${name}`} className="mt-1 h-2 overflow-hidden bg-shade">
          <Progress.Indicator className="h-full bg-teal" style={{ width: `${percent}%` }} />
        </Progress.Root>
      </div>
      <Button onClick={onStop}>Stop</Button>
    </li>
  );
}

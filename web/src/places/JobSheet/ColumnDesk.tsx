import clsx from "clsx";
import { Columns3 } from "lucide-react";
import { Collapsible } from "radix-ui";
import { useState } from "react";
import { sentenceOf, type Run, type Schemas } from "../../api/client";
import { useColumns, useImportColumns, type JobActions } from "../../api/jobs";
import { buttonLook } from "../../parts/Button";
import { roles } from "../../parts/roles";

/** What each column of a log is taken for, and a way to overrule it. */
export function ColumnDesk({ run, actions }: { run: Run; actions: JobActions }) {
  const [open, setOpen] = useState(false);
  const doubtful = run.analysis.channels.filter((channel) => channel.rejected > 0).length;
  return (
    <Collapsible.Root open={open} onOpenChange={setOpen} className="w-full">
      <Collapsible.Trigger className={buttonLook("plain")}>
        <Columns3 size={18} aria-hidden="true" /> {run.analysis.channels.length} columns
        {doubtful > 0 && `, ${doubtful} with samples left out`}
      </Collapsible.Trigger>
      <Collapsible.Content className="mt-3">{open && <Desk run={run} actions={actions} />}</Collapsible.Content>
    </Collapsible.Root>
  );
}

/** The desk of a log that could not be read. */
export function ImportColumnDesk({ importId, actions }: { importId: string; actions: JobActions }) {
  return (
    <Columns
      columns={useImportColumns(importId)}
      canBeTime
      onSay={(column, role) => actions.setImportRole(importId, column, role)}
      onRefused={() => void actions.refresh()}
    />
  );
}

function Desk({ run, actions }: { run: Run; actions: JobActions }) {
  return (
    <Columns
      columns={useColumns(run.id, run.version)}
      onSay={(column, role) => actions.setRole(run.id, column, role, run.version)}
      onRefused={() => void actions.refresh()}
    />
  );
}

function Columns({
  columns,
  canBeTime = false,
  onSay,
  onRefused,
}: {
  columns: { data?: Schemas["ColumnAnswer"][]; isError: boolean; error: Error | null };
  canBeTime?: boolean;
  onSay: (column: number, role: string) => Promise<unknown>;
  onRefused: () => void;
}) {
  const [problem, setProblem] = useState<string>();
  const [saving, setSaving] = useState<number>();
  if (columns.isError) {
    return (
      <p role="alert" className="font-semibold text-amber">
        The columns could not be fetched: {columns.error?.message}
      </p>
    );
  }
  if (!columns.data) {
    return <p role="status">Reading the columns …</p>;
  }
  const say = async (column: number, role: string) => {
    setProblem(undefined);
    setSaving(column);
    try {
      await onSay(column, role);
    } catch (failure) {
      setProblem(sentenceOf(failure, "Not saved."));
      onRefused();
    } finally {
      setSaving(undefined);
    }
  };
  const choices = canBeTime ? [["time", "the time"] as const, ...roles] : roles;
  return (
    <>
      <p className="mb-2 text-muted">
        {canBeTime &&
          "Say which column is the time and which the processor’s temperature; the log is then read again. "}
        What you say here is remembered for every log with the same header.
      </p>
      {problem && (
        <p role="alert" className="mb-2 font-semibold text-amber">
          Not saved: {problem}
        </p>
      )}
      <div className="overflow-x-auto">
        <table className="w-full border-collapse text-left">
          <thead>
            <tr className="text-muted">
              <th className="py-1 pr-4 font-normal">column</th>
              <th className="py-1 pr-4 font-normal">first values</th>
              <th className="py-1 pr-4 font-normal">is taken for</th>
              {!canBeTime && <th className="py-1 font-normal">samples</th>}
            </tr>
          </thead>
          <tbody>
            {columns.data.map((column) => (
              <tr key={column.column} className="border-t border-hairline align-middle">
                <th scope="row" className="py-1 pr-4 font-semibold">
                  {column.source}
                </th>
                <td className="py-1 pr-4 font-mono whitespace-nowrap text-muted">{firstValues(column)}</td>
                <td className="py-1 pr-4">
                  {column.role === "time" && !canBeTime ? (
                    "the time"
                  ) : (
                    <span className="flex items-center gap-3">
                      <select
                        aria-label={`What ${column.source} is`}
                        value={column.role}
                        disabled={saving !== undefined}
                        onChange={(event) => void say(column.column, event.target.value)}
                        className={clsx(
                          "min-h-11 rounded-sm border bg-card px-2",
                          column.confidence < 0.6 && column.role !== "other" ? "border-amber" : "border-hairline",
                        )}
                      >
                        {choices.map(([id, words]) => (
                          <option key={id} value={id}>
                            {words}
                          </option>
                        ))}
                      </select>
                      <span className="text-muted">
                        {saving === column.column ? "reading anew …" : sureness(column)}
                      </span>
                    </span>
                  )}
                </td>
                <td className="py-1 font-mono whitespace-nowrap" hidden={canBeTime}>
                  {column.samples}
                  {(column.rejected ?? 0) > 0 && <span className="text-amber"> − {column.rejected} left out</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}

function firstValues({ first, unit }: Schemas["ColumnAnswer"]): string {
  return first.length === 0 ? "—" : `${first.join("  ")} ${unit === "C" ? "°C" : unit}`;
}

function sureness(column: Schemas["ColumnAnswer"]): string {
  if (column.role === "other") {
    return "";
  }
  return column.confidence === 1
    ? "said"
    : column.confidence > 0.9
      ? "sure"
      : column.confidence > 0.6
        ? "likely"
        : "a guess";
}

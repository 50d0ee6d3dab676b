import type { ReactNode } from "react";
import { Link } from "react-router";
import { Failing, Loading } from "../../parts/States";

/** The machines that a figure is made of, each in a few words that lead to its sheet. */
export function MachinesBehind<Machine extends { job: string }>({
  behind,
  to = (machine) => machine.job,
  at = "",
  children,
}: {
  behind: { data?: readonly Machine[]; isError: boolean; error: Error | null; refetch: () => unknown };
  /** The job that a touch opens. */
  to?: (machine: Machine) => string;
  /** The part of its sheet where the runs stand. */
  at?: "" | "#after";
  children: (machine: Machine) => ReactNode;
}) {
  return behind.data ? (
    <p className="m-0 flex flex-wrap gap-x-4">
      {behind.data.map((machine, i) => (
        <Link
          key={i}
          to={`/jobs/${to(machine)}${at}`}
          className="inline-flex min-h-11 items-center text-teal underline decoration-1 underline-offset-4"
        >
          {children(machine)}
        </Link>
      ))}
    </p>
  ) : behind.isError ? (
    <Failing sentence={behind.error!.message} onRetry={() => void behind.refetch()} />
  ) : (
    <Loading what="the machines" />
  );
}

import { useState } from "react";
import { Link } from "react-router";
import { auditCsv, useAudit, usePeople, type AuditEntry } from "../../api/people";
import { useMe } from "../../api/session";
import { Button, buttonLook } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Failing, Loading } from "../../parts/States";
import { useTitle } from "../../parts/useTitle";
import { day } from "../../parts/words";

const kinds: readonly (readonly [string, string])[] = [
  ["access", "Who came and went"],
  ["workshop", "Workshop and bays"],
  ["jobs", "Jobs"],
  ["parts", "Parts"],
];

const time = (at: string) => new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

/** Who did what, in all of the workshop: a lead's to read. */
export function LogPlace() {
  useTitle("Log");
  const me = useMe();
  const [of, setOf] = useState<string | null>(null);
  const [person, setPerson] = useState<string | null>(null);
  const people = usePeople(me?.rights === "lead");
  const audit = useAudit({ of, person });
  const entries = audit.data?.pages.flatMap((page) => page.entries) ?? [];
  const days = new Map<string, AuditEntry[]>();
  for (const entry of entries) {
    const on = day(entry.at);
    days.set(on, [...(days.get(on) ?? []), entry]);
  }
  return (
    <div className="max-w-5xl px-4 py-5 md:px-7">
      <p className="m-0">
        <Link to="/workshop" className="inline-flex min-h-11 items-center text-teal underline underline-offset-4">
          The workshop
        </Link>
      </p>
      <h1 className="text-3xl font-bold">Who did what</h1>
      <div className="mt-3 flex flex-wrap items-end gap-x-6 gap-y-3">
        <Choice label="Of" hideLabel value={of} options={kinds} clearable onChange={setOf} />
        <label className="flex items-center gap-2">
          <span className="text-muted">by</span>
          <select
            className="min-h-11 rounded-sm border border-hairline bg-card px-2"
            value={person ?? ""}
            onChange={(event) => setPerson(event.target.value || null)}
          >
            <option value="">anybody</option>
            {people.data?.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
        <a className={buttonLook("plain")} href={auditCsv({ of, person })} download>
          As a table
        </a>
      </div>
      {audit.isError ? (
        <Failing sentence={audit.error.message} />
      ) : !audit.data ? (
        <Loading what="the log" />
      ) : entries.length === 0 ? (
        <p className="mt-6 text-lg text-muted">Nothing of that kind has happened.</p>
      ) : (
        <>
          {[...days].map(([on, those]) => (
            <section key={on} aria-label={on} className="mt-6">
              <h2 className="m-0 text-xl font-bold">{on}</h2>
              <ul className="m-0 list-none p-0">
                {those.map((entry, i) => (
                  <Row key={i} entry={entry} />
                ))}
              </ul>
            </section>
          ))}
          {audit.hasNextPage && (
            <Button className="mt-5" disabled={audit.isFetchingNextPage} onClick={() => void audit.fetchNextPage()}>
              What was before
            </Button>
          )}
        </>
      )}
    </div>
  );
}

function Row({ entry }: { entry: AuditEntry }) {
  return (
    <li className="grid grid-cols-[4rem_1fr] gap-x-3 border-t border-hairline py-2 md:grid-cols-[4rem_9rem_1fr]">
      <span className="font-mono text-muted">{time(entry.at)}</span>
      <strong>{entry.person ?? "nobody known"}</strong>
      <span className="col-start-2 md:col-start-3">
        {entry.what}
        {entry.subject && (
          <>
            {": "}
            {entry.jobId ? (
              <Link to={`/jobs/${entry.jobId}`} className="text-teal underline underline-offset-4">
                {entry.subject}
              </Link>
            ) : (
              entry.subject
            )}
          </>
        )}
        {entry.after !== null && (
          <span className="text-muted">
            {" "}
            {entry.before !== null ? `${entry.before} → ${entry.after}` : entry.after}
          </span>
        )}
        {entry.address && <span className="text-muted"> from {entry.address}</span>}
      </span>
    </li>
  );
}

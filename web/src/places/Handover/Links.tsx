import { Copy, Link2 } from "lucide-react";
import { useState } from "react";
import { sentenceOf, type Schemas } from "../../api/client";
import { useLinkActions, useReportLinks } from "../../api/papers";
import { Button } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { day, moment } from "../../parts/words";

const terms = [
  ["7", "a week"],
  ["30", "a month"],
  ["365", "a year"],
] as const;

/** Links that the owner can open without signing in: made, copied, counted, withdrawn. */
export function Links({ jobId }: { jobId: string }) {
  const links = useReportLinks(jobId);
  const { make, withdraw } = useLinkActions(jobId);
  const [days, setDays] = useState("30");
  const [says, setSays] = useState<{ words: string; wrong?: boolean }>();
  const fail = (failure: unknown) => setSays({ words: sentenceOf(failure, "It did not work."), wrong: true });
  const base = links.data?.address ?? "";
  return (
    <section aria-label="Links for the owner" className="no-print mx-auto mt-6 max-w-3xl">
      <h2 className="text-xl font-bold">A link for the owner</h2>
      <p className="mt-1 mb-2 text-muted">
        Whoever has it opens this page as it is now, and nothing else. It runs out, and it can be withdrawn.
      </p>
      <div className="flex flex-wrap items-end gap-4">
        <Choice label="Valid for" value={days} options={terms} onChange={(next) => next && setDays(next)} />
        <Button onClick={() => void make(Number(days)).then(() => setSays(undefined), fail)}>
          <Link2 size={20} aria-hidden="true" /> Make a link
        </Button>
      </div>
      {links.data?.elsewhere === false && (
        <p className="mt-2 mb-0 border-l-4 border-amber pl-3">
          This address leads every machine to itself. Set the one by which others reach this server (docs/operating.md,
          “PublicAddress”).
        </p>
      )}
      {says && (
        <p
          role={says.wrong ? "alert" : "status"}
          className={`mt-2 mb-0 font-semibold ${says.wrong ? "text-amber" : ""}`}
        >
          {says.words}
        </p>
      )}
      {links.isError && !links.data && (
        <p role="alert" className="mt-2 mb-0 font-semibold text-amber">
          {links.error.message}
        </p>
      )}
      <ul className="m-0 mt-3 list-none p-0">
        {(links.data?.links ?? []).map((link) => (
          <li key={link.id} className="flex flex-wrap items-center gap-x-5 gap-y-1 border-t border-hairline py-2">
            {link.path && (
              <code className="w-full font-mono break-all" data-link>
                {base}
                {link.path}
              </code>
            )}
            <span className="grow">
              Made {moment(link.madeAt)}, {stateOf(link)}; {openedWords(link)}
            </span>
            {link.path && (
              <Button
                onClick={() =>
                  void navigator.clipboard
                    .writeText(`${base}${link.path}`)
                    .then(() => setSays({ words: "Copied." }), fail)
                }
              >
                <Copy size={18} aria-hidden="true" /> Copy
              </Button>
            )}
            {holds(link) && (
              <Button
                onClick={() =>
                  void withdraw(link.id).then(() => setSays({ words: "This link no longer works." }), fail)
                }
              >
                Withdraw
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

type ReportLink = Schemas["LinkAnswer"];

const holds = (link: ReportLink) => link.withdrawnAt === null && new Date(link.expiresAt) > new Date();

const stateOf = (link: ReportLink) =>
  link.withdrawnAt !== null
    ? `withdrawn ${day(link.withdrawnAt)}`
    : holds(link)
      ? `valid until ${day(link.expiresAt)}`
      : `expired ${day(link.expiresAt)}`;

const openedWords = (link: ReportLink) =>
  link.openings === 0
    ? "not opened yet."
    : `opened ${link.openings === 1 ? "once" : `${link.openings} times`}, last ${moment(link.lastOpenedAt!)}.`;

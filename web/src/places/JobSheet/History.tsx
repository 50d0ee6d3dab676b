import { Undo2 } from "lucide-react";
import { useState } from "react";
import { sentenceOf, type JobSheet, type Schemas } from "../../api/client";
import { useHistory, type JobActions } from "../../api/jobs";
import { Button } from "../../parts/Button";
import { useShortcuts } from "../../parts/shortcuts";
import { ago } from "../../parts/words";

type Entry = Schemas["HistoryEntry"];
type Asked = Pick<Entry, "eventId" | "words" | "person">;

/** Undo step by step, and all that has happened to the job. Another person's change is taken back only after a question. */
export function History({ job, actions }: { job: JobSheet; actions: JobActions }) {
  const [open, setOpen] = useState(false);
  const [asked, setAsked] = useState<Asked>();
  const [problem, setProblem] = useState<string>();
  const turn = (eventId: number) => {
    setAsked(undefined);
    setProblem(undefined);
    actions.turn(eventId).catch((failure: unknown) => setProblem(sentenceOf(failure, "Not taken back.")));
  };
  const wish = (change: Asked & { mine: boolean }) => (change.mine ? turn(change.eventId) : setAsked(change));
  const undo = () => void actions.lastChange().then((last) => last && wish(last));
  useShortcuts({ u: undo });
  return (
    <section aria-label="Changes" className="border-t border-hairline pt-2">
      {job.lastChange && (
        <Button kind="quiet" onClick={undo} className="-ml-2 text-left">
          <Undo2 size={18} aria-hidden="true" className="shrink-0" />
          Undo: {changeWords(job.lastChange)}
        </Button>
      )}
      <Button kind="quiet" aria-expanded={open} className="-ml-2" onClick={() => setOpen(!open)}>
        {open ? "Hide the changes" : "All changes"}
      </Button>
      {asked && (
        <div role="alertdialog" aria-label="Another person’s change" className="my-2 border-l-4 border-amber pl-3">
          <p className="m-0">
            {asked.person} changed this: {asked.words}. Take it back?
          </p>
          <div className="mt-2 flex flex-wrap gap-2">
            <Button onClick={() => turn(asked.eventId)}>Take it back</Button>
            <Button onClick={() => setAsked(undefined)}>Leave it</Button>
          </div>
        </div>
      )}
      {problem && (
        <p role="alert" className="my-2 font-semibold text-amber">
          {problem}
        </p>
      )}
      {open && <Changes job={job} onWish={wish} />}
    </section>
  );
}

/** A change in a few words: what, who, when. */
export const changeWords = (change: { words: string; person: string; at: string }) =>
  `${change.words} (${change.person}, ${ago(change.at)})`;

function Changes({ job, onWish }: { job: JobSheet; onWish: (entry: Entry) => void }) {
  const history = useHistory(job.id, job.lastEventId, true);
  if (!history.data) {
    return (
      <p role="status" className="m-0 text-muted">
        {history.isError ? history.error.message : "Fetching the changes …"}
      </p>
    );
  }
  return (
    <>
      <ol aria-label="All changes, the latest first" className="m-0 max-h-96 list-none overflow-y-auto p-0">
        {history.data.pages
          .flatMap((page) => page.entries)
          .map((entry) => (
            <li key={entry.eventId} className="flex items-start gap-2 border-t border-hairline py-1">
              <div className="min-w-0 grow py-1">
                <p className={`m-0 ${entry.undone ? "text-muted line-through" : ""}`}>
                  {entry.words}
                  {entry.after !== null && `: ${entry.before ?? "nothing"} → ${entry.after}`}
                </p>
                <p className="m-0 text-sm text-muted">
                  {entry.person}, {ago(entry.at)}
                  {entry.undone && ", taken back"}
                </p>
              </div>
              {entry.canTurn && (
                <Button kind="quiet" className="shrink-0" onClick={() => onWish(entry)}>
                  {entry.undone ? "Put back" : "Take back"}
                </Button>
              )}
            </li>
          ))}
      </ol>
      {history.hasNextPage && (
        <Button kind="quiet" onClick={() => void history.fetchNextPage()}>
          Earlier ones
        </Button>
      )}
    </>
  );
}

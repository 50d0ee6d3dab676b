import clsx from "clsx";
import { CalendarClock, Plus, Search } from "lucide-react";
import { useRef, useState, type KeyboardEvent } from "react";
import { Link, useNavigate, useSearchParams } from "react-router";
import type { JobTag } from "../../api/client";
import { useCreateJob, useJobList } from "../../api/jobs";
import { Button, buttonLook } from "../../parts/Button";
import { Choice } from "../../parts/Choice";
import { Failing, Loading } from "../../parts/States";
import { useShortcuts } from "../../parts/shortcuts";
import { useTitle } from "../../parts/useTitle";
import { waits, wantsHand } from "../../parts/waits";
import { Due } from "./Due";
import { useReadIn } from "./ReadIn";
import { Tag } from "./Tag";
import { TouchNow } from "./TouchNow";

const orders = [
  ["waits", "What it waits for"],
  ["changed", "Last change"],
  ["owner", "Owner"],
] as const;

/** Every machine in the workshop as a tag. Search, filter and order stand in the address, so a list can be linked to. */
export function JobsPlace() {
  const [address, setAddress] = useSearchParams();
  const search = address.get("search") ?? "";
  const wait = address.get("waits");
  const order = address.get("order") ?? "waits";
  const jobs = useJobList(search);
  const create = useCreateJob();
  const navigate = useNavigate();
  const searchBox = useRef<HTMLInputElement>(null);
  const list = useRef<HTMLUListElement>(null);
  const readIn = useReadIn();
  useTitle("Jobs");

  // The address lags behind quick fingers: while it does, the text in the box is the truth.
  const [text, setText] = useState(search);
  const [typing, setTyping] = useState(false);
  const [seen, setSeen] = useState(search);
  if (seen !== search) {
    setSeen(search);
    if (!typing) {
      setText(search);
    } else if (search === text) {
      setTyping(false);
    }
  }

  const set = (name: string, value: string | null) =>
    setAddress(
      (now) => {
        const next = new URLSearchParams(now);
        if (value) {
          next.set(name, value);
        } else {
          next.delete(name);
        }
        return next;
      },
      { replace: true },
    );
  const add = () => create.mutate(undefined, { onSuccess: (sheet) => void navigate(`/jobs/${sheet.id}#intake`) });
  const move = (step: number) => {
    const tags = [...(list.current?.querySelectorAll<HTMLAnchorElement>("a") ?? [])];
    const at = tags.findIndex((tag) => tag === document.activeElement);
    tags[Math.max(0, Math.min(tags.length - 1, at + step))]?.focus();
  };
  useShortcuts({
    n: add,
    "/": () => searchBox.current?.focus(),
    j: () => move(1),
    k: () => move(-1),
  });

  if (jobs.isError && !jobs.data) {
    return <Failing sentence={jobs.error.message} onRetry={() => void jobs.refetch()} />;
  }
  if (!jobs.data) {
    return <Loading what="the jobs" />;
  }
  const all = jobs.data;
  const shown = sorted(wait ? all.filter((tag) => tag.waitsFor === wait) : all, order);
  const more = jobs.hasNextPage ? "+" : "";
  const present = waits.filter(([id]) => all.some((tag) => tag.waitsFor === id));
  return (
    <div className="px-4 py-5 md:px-7">
      <header className="flex flex-wrap items-center gap-x-6 gap-y-3">
        <h1 className="grow text-3xl font-bold">{headline(all, search, more)}</h1>
        <label className="relative grow basis-64 md:max-w-96">
          <span className="sr-only">Search by owner, machine, serial, symptom or tag</span>
          <Search size={20} aria-hidden="true" className="absolute top-3 left-3 text-muted" />
          <input
            ref={searchBox}
            type="search"
            value={text}
            placeholder="Owner, machine, symptom, tag"
            onChange={(event) => {
              setText(event.target.value);
              setTyping(event.target.value !== search);
              set("search", event.target.value);
            }}
            onKeyDown={(event: KeyboardEvent<HTMLInputElement>) => {
              // Escape leaves the box for the list; browsers would empty it.
              if (event.key === "Escape") {
                event.preventDefault();
                event.currentTarget.blur();
              }
            }}
            className="min-h-11 w-full rounded-sm border border-hairline bg-card pr-3 pl-10"
          />
        </label>
        {readIn.button}
        <Button kind="main" onClick={add} disabled={create.isPending}>
          <Plus size={20} aria-hidden="true" /> New machine
        </Button>
      </header>
      {readIn.told}
      {create.isError && (
        <p role="alert" className="mt-3 font-semibold text-amber">
          No job was made: {create.error.message}
        </p>
      )}
      {jobs.isError && (
        <p role="alert" className="mt-3 font-semibold text-amber">
          This list may be out of date: {jobs.error.message}
        </p>
      )}
      {search === "" && (
        <>
          <div className="mt-4 flex flex-wrap items-end gap-x-6 gap-y-2 border-t border-hairline pt-3">
            <div className="grow">
              <TouchNow />
            </div>
            <Link to="/jobs/day" className={buttonLook("plain")}>
              <CalendarClock size={20} aria-hidden="true" /> The whole day
            </Link>
          </div>
          <Due />
        </>
      )}
      {all.length > 1 && (
        <div className="mt-4 flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-hairline pt-3">
          <Choice
            label="What it waits for"
            hideLabel
            value={wait ?? "all"}
            options={[
              ["all", `All ${all.length}${more}`],
              ...present.map(([id, , word]) => [id, `${word} ${count(all, id)}${id === "done" ? more : ""}`] as const),
            ]}
            onChange={(value) => set("waits", value === "all" ? null : value)}
          />
          <label className="ml-auto flex items-center gap-2 text-muted">
            Order
            <select
              value={order}
              onChange={(event) => set("order", event.target.value)}
              className="min-h-11 rounded-sm border border-hairline bg-card px-3 text-ink"
            >
              {orders.map(([id, words]) => (
                <option key={id} value={id}>
                  {words}
                </option>
              ))}
            </select>
          </label>
        </div>
      )}
      {shown.length === 0 ? (
        <Empty search={search} filtered={wait !== null} onAdd={add} onClear={() => setAddress({}, { replace: true })} />
      ) : (
        <ul
          ref={list}
          className={clsx(
            "mt-5 grid list-none grid-cols-1 gap-4 p-0 sm:grid-cols-2 xl:grid-cols-3",
            jobs.isPlaceholderData && "opacity-60",
          )}
        >
          {shown.map((tag) => (
            <li key={tag.id} className="min-w-0">
              <Tag tag={tag} />
            </li>
          ))}
        </ul>
      )}
      {jobs.hasNextPage && (!wait || wait === "done") && (
        <p className="mt-5 mb-0">
          <Button kind="quiet" disabled={jobs.isFetchingNextPage} onClick={() => void jobs.fetchNextPage()}>
            {jobs.isFetchingNextPage ? "Looking further back …" : "Show machines that left earlier"}
          </Button>
        </p>
      )}
    </div>
  );
}

const count = (tags: readonly JobTag[], wait: string) => tags.filter((tag) => tag.waitsFor === wait).length;

function headline(tags: readonly JobTag[], search: string, more: string): string {
  if (search) {
    return tags.length === 0
      ? "No machine found"
      : tags.length === 1
        ? "One machine found"
        : `${tags.length}${more} machines found`;
  }
  const hands = tags.filter((tag) => wantsHand(tag.waitsFor)).length;
  return tags.length === 0
    ? "No machine in the workshop"
    : hands === 0
      ? "No machine waits for a hand"
      : hands === 1
        ? "One machine needs a hand"
        : `${hands} machines need a hand`;
}

function sorted(tags: readonly JobTag[], order: string): readonly JobTag[] {
  switch (order) {
    case "changed":
      return [...tags].sort((a, b) => b.changedAt.localeCompare(a.changedAt));
    case "owner":
      return [...tags].sort((a, b) => (a.owner ?? "\uffff").localeCompare(b.owner ?? "\uffff"));
    default:
      return tags; // the server's order
  }
}

function Empty({
  search,
  filtered,
  onAdd,
  onClear,
}: {
  search: string;
  filtered: boolean;
  onAdd: () => void;
  onClear: () => void;
}) {
  return (
    <div className="mt-10 max-w-xl">
      <p className="text-xl">
        {search || filtered
          ? `No machine ${search ? `with “${search}”` : "like this"}. Owner, contact, machine, serial, symptom and tag are searched.`
          : "A job starts when a machine comes in: owner, machine, what was noticed. Its runs, its repair and the owner’s page gather on it."}
      </p>
      <div className="mt-4">
        {search || filtered ? (
          <Button kind="main" onClick={onClear}>
            Show all machines
          </Button>
        ) : (
          <Button kind="main" onClick={onAdd}>
            <Plus size={20} aria-hidden="true" /> Take in the first machine
          </Button>
        )}
      </div>
    </div>
  );
}

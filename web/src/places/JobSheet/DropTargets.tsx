import clsx from "clsx";
import { useEffect, useState, type DragEvent } from "react";
import type { JobSheet } from "../../api/client";
import { changes, currentSetup, lastMount } from "./setups";

/** Where files can fall: on a mount that is there, on the next setup, on the cooler put back, or among the pictures. */
export type Target =
  | { kind: "mount"; mount: string; setup: number }
  | { kind: "new"; change: string }
  | { kind: "remount"; setup: number }
  | { kind: "picture" };

interface Place {
  id: string;
  target: Target;
  title: string;
  hint: string;
}

/** What is on the machine now comes first; a new setup is one drop away. */
export function placesOf(job: JobSheet): { suggested: string; main: Place[]; more: Place[] } {
  const current = currentSetup(job);
  const first = job.setups[0]!;
  const of = (id: string, setup: typeof current, hint: string): Place => ({
    id,
    target: { kind: "mount", mount: lastMount(setup).id, setup: setup.number },
    title: setup.name,
    hint,
  });
  const repaired: Place = {
    id: "after",
    target: { kind: "new", change: "repair" },
    title: "After a repair",
    hint: "the next setup, same conditions",
  };
  const second = current === first ? repaired : of("after", current, "on it now, same conditions");
  const hasBaseline = job.runs.some((run) => run.setup === first.number);
  return {
    suggested: hasBaseline ? second.id : "before",
    main: [
      of("before", first, "untouched"),
      second,
      { id: "picture", target: { kind: "picture" }, title: "Picture", hint: "of the machine, of the receipt" },
    ],
    more: [
      {
        id: "remount",
        target: { kind: "remount", setup: current.number },
        title: "Cooler lifted and put back",
        hint: `the same setup, once more`,
      },
      ...changes
        .filter(([kind]) => kind !== "repair" || current !== first)
        .map(([kind, title, hint]): Place => ({ id: kind, target: { kind: "new", change: kind }, title, hint })),
    ],
  };
}

/** Takes files dropped anywhere on the sheet; while they hover, where they can go stands as large as the screen. */
export function DropTargets({ job, onDrop }: { job: JobSheet; onDrop: (target: Target, files: File[]) => void }) {
  const [hovering, setHovering] = useState(false);
  const [over, setOver] = useState<string>();
  useEffect(() => {
    const enter = (event: globalThis.DragEvent) => {
      if (event.dataTransfer?.types.includes("Files")) {
        event.preventDefault();
        setHovering(true);
      }
    };
    // A file that misses the targets must not make the browser leave the page.
    const hold = (event: globalThis.DragEvent) => event.preventDefault();
    window.addEventListener("dragenter", enter);
    window.addEventListener("dragover", hold);
    window.addEventListener("drop", hold);
    return () => {
      window.removeEventListener("dragenter", enter);
      window.removeEventListener("dragover", hold);
      window.removeEventListener("drop", hold);
    };
  }, []);
  if (!hovering) {
    return null;
  }
  const { suggested, main, more } = placesOf(job);
  const drop = (target: Target) => (event: DragEvent) => {
    event.preventDefault();
    setHovering(false);
    setOver(undefined);
    onDrop(target, [...event.dataTransfer.files]);
  };
  const place = (one: Place, large: boolean) => (
    <div
      key={one.id}
      data-drop={one.id}
      onDragEnter={() => setOver(one.id)}
      onDrop={(event) => {
        event.stopPropagation();
        drop(one.target)(event);
      }}
      className={clsx(
        "flex min-h-16 flex-col items-center justify-center border-4 px-2 text-center",
        over === one.id ? "border-teal bg-teal-soft" : one.id === suggested ? "border-teal" : "border-hairline",
      )}
    >
      <span className={clsx("font-bold", large ? "text-3xl" : "text-xl")}>{one.title}</span>
      <span className={clsx("text-muted", large && "mt-2 text-xl")}>{one.hint}</span>
    </div>
  );
  return (
    <div
      className="fixed inset-0 z-40 grid grid-rows-[3fr_2fr] gap-4 bg-paper/95 p-6"
      onDragOver={(event) => event.preventDefault()}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) {
          setHovering(false);
        }
      }}
      onDrop={drop(main.find((one) => one.id === suggested)!.target)}
    >
      <div className="grid grid-cols-3 gap-4">{main.map((one) => place(one, true))}</div>
      <div className="grid auto-cols-fr grid-flow-col gap-4">{more.map((one) => place(one, false))}</div>
    </div>
  );
}

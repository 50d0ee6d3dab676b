import clsx from "clsx";
import { useEffect, useState, type DragEvent } from "react";
import type { Side } from "../../pictures/lanes";

export type Target = Side | "picture";

const targets = [
  ["before", "Before run", "as it came in, untouched"],
  ["after", "After run", "repaired, same conditions"],
  ["picture", "Picture", "of the machine, of the receipt"],
] as const;

/** Takes files dropped anywhere on the sheet; while they hover, where they can go stands as large as the screen. */
export function DropTargets({
  suggested,
  onDrop,
}: {
  suggested: Side;
  onDrop: (target: Target, files: File[]) => void;
}) {
  const [hovering, setHovering] = useState(false);
  const [over, setOver] = useState<Target>();
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
  const drop = (side: Target) => (event: DragEvent) => {
    event.preventDefault();
    setHovering(false);
    setOver(undefined);
    onDrop(side, [...event.dataTransfer.files]);
  };
  return (
    <div
      className="fixed inset-0 z-40 grid grid-cols-3 gap-4 bg-paper/95 p-6"
      onDragOver={(event) => event.preventDefault()}
      onDragLeave={(event) => {
        if (!event.currentTarget.contains(event.relatedTarget as Node | null)) {
          setHovering(false);
        }
      }}
      onDrop={drop(suggested)}
    >
      {targets.map(([side, title, hint]) => (
        <div
          key={side}
          data-drop={side}
          onDragEnter={() => setOver(side)}
          onDrop={(event) => {
            event.stopPropagation();
            drop(side)(event);
          }}
          className={clsx(
            "flex flex-col items-center justify-center border-4 text-center",
            over === side ? "border-teal bg-teal-soft" : side === suggested ? "border-teal" : "border-hairline",
          )}
        >
          <span className="text-4xl font-bold">{title}</span>
          <span className="mt-2 text-xl text-muted">{hint}</span>
        </div>
      ))}
    </div>
  );
}

import type { ReactNode } from "react";

/** A row of a record; what it is made of opens under it. */
export function OpeningRow({
  title,
  cells,
  open,
  onOpen,
  children,
}: {
  title: string;
  cells: readonly string[];
  open: boolean;
  onOpen: (wanted: boolean) => void;
  children: ReactNode;
}) {
  return (
    <>
      <tr className="h-11 border-t border-hairline">
        <th scope="row" className="text-left font-semibold">
          <button
            type="button"
            aria-expanded={open}
            className="min-h-11 text-left font-semibold underline decoration-1 underline-offset-4"
            onClick={() => onOpen(!open)}
          >
            {title}
          </button>
        </th>
        {cells.map((cell, i) => (
          <td key={i} className="pl-3 text-right font-mono whitespace-nowrap">
            {cell}
          </td>
        ))}
      </tr>
      {open && (
        <tr>
          <td colSpan={cells.length + 1} className="pb-3">
            {children}
          </td>
        </tr>
      )}
    </>
  );
}

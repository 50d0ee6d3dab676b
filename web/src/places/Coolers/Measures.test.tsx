import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { afterEach, describe, expect, it, vi } from "vitest";
import type { JobSheet, Schemas } from "../../api/client";
import type { Candidate } from "../../api/coolers";
import type { JobActions } from "../../api/jobs";
import measureRows from "../../../../src/Remedos.Core/Matching/measures.json";
import { RulerDrawing } from "../../pictures/RulerDrawing";
import { Measures } from "./Measures";

afterEach(cleanup);

const measures = measureRows as Schemas["MeasureRow"][];

const asking = (name: string, atLeastMm: number | null, atMostMm: number | null = null, field = "coolerRoomMm") =>
  ({
    id: name,
    name,
    fits: null,
    reasons: [
      { code: "measure-needed", byMm: null, message: "Measure first.", measure: { field, atLeastMm, atMostMm } },
    ],
  }) as unknown as Candidate;

function show(candidates: Candidate[], fields: Record<string, unknown> = {}, parts: unknown[] = []) {
  const cache = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity } } });
  cache.setQueryData(["parts"], parts);
  const all = Object.fromEntries(measures.map((row) => [row.field, null]));
  render(
    <QueryClientProvider client={cache}>
      <MemoryRouter>
        <Measures
          job={{ id: "job", fields: { ...all, case: "Gable Mid", ...fields } } as unknown as JobSheet}
          actions={{ saveField: vi.fn() } as unknown as JobActions}
          measures={measures}
          candidates={candidates}
        />
      </MemoryRouter>
    </QueryClientProvider>,
  );
}

describe("Measures", () => {
  it("asks once for what several coolers hang on, and says what would do, the easiest first", () => {
    show([asking("Mullion 120", 154), asking("Ridge 2", 165.5), asking("Sill", 70)]);
    const room = screen.getByRole("region", { name: "Room for a cooler’s height" });
    expect(room.textContent).toMatch(
      /Decides 3 coolers: 70.mm or more for Sill; 154.mm or more for Mullion 120; 166.mm or more for Ridge 2\./,
    );
    expect(screen.getByRole("img", { name: /ruler: Room for a cooler/ })).toBeTruthy();
    expect(screen.getAllByRole("textbox")).toHaveLength(1);
  });

  it("keeps what was measured in reach, and offers it to the part only where that says otherwise", () => {
    const part = (mm: string) => ({ kind: "case", name: "Gable Mid", cells: { maxCoolerHeightMm: mm }, values: {} });
    show([], { coolerRoomMm: 164 }, [part("160")]);
    expect(screen.getByRole("button", { name: "Keep it with the part Gable Mid" })).toBeTruthy();
    expect(screen.getByText(/It says 160.mm\./)).toBeTruthy();
    cleanup();
    show([], { coolerRoomMm: 164 }, [part("164")]);
    expect(screen.queryByRole("button")).toBeNull();
    expect(screen.getByText("Gable Mid says the same.")).toBeTruthy();
  });

  it("leads to the part where no ruler at the machine helps", () => {
    const odd = asking("Rill 120", null);
    odd.reasons = [
      { code: "measure-needed", byMm: null, message: "Measure first: how high the cooler is.", measure: null },
    ];
    show([odd]);
    expect(screen.getByRole("link", { name: "Rill 120" }).getAttribute("href")).toBe(
      "/coolers/parts?kind=cooler&search=Rill%20120",
    );
    expect(screen.queryByRole("textbox")).toBeNull();
  });
});

describe("RulerDrawing", () => {
  it("draws every measure there is", () => {
    for (const { field, title } of measures) {
      const { container } = render(<RulerDrawing field={field} title={title} />);
      expect(container.querySelector("svg"), field).toBeTruthy();
      cleanup();
    }
  });
});

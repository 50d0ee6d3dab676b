import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import type { OptionChoice, OptionSheet } from "../api/options";
import { useChoice } from "./useChoice";

const { saveField } = vi.hoisted(() => ({
  saveField: vi.fn<(field: string, value: unknown, base: unknown) => Promise<unknown>>(),
}));
vi.mock("../api/jobs", () => ({ useJobActions: () => ({ saveField }) }));
afterEach(cleanup);

const choice = (option: string) => ({ option, title: option }) as OptionChoice;

function Chooser() {
  const { data } = useQuery<OptionSheet>({ queryKey: ["options", "j"], enabled: false });
  const { choose, problem } = useChoice("j", data?.chosen ?? null);
  return (
    <>
      {["repair", "leave"].map((option) => (
        <button key={option} onClick={() => choose(choice(option))}>
          {option}
        </button>
      ))}
      <p>{problem ?? `chosen: ${data?.chosen?.option ?? "none"}`}</p>
    </>
  );
}

it("chooses on top of what was chosen a moment before, though the options were not asked for anew yet", async () => {
  saveField.mockResolvedValue({});
  const cache = new QueryClient();
  cache.setQueryData(["options", "j"], { chosen: null });
  render(
    <QueryClientProvider client={cache}>
      <Chooser />
    </QueryClientProvider>,
  );
  for (const option of ["repair", "leave"]) {
    fireEvent.click(screen.getByRole("button", { name: option }));
    await waitFor(() => expect(screen.getByText(`chosen: ${option}`)).toBeTruthy());
  }
  expect(saveField.mock.calls).toEqual([
    ["choice", choice("repair"), null],
    ["choice", choice("leave"), choice("repair")],
  ]);
});

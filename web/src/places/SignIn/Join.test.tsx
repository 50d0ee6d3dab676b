import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { JoinPlace } from "./Join";

const door = vi.hoisted(() => ({ me: undefined as { name: string; workshop: string } | undefined, asMyself: vi.fn() }));

vi.mock("../../api/session", () => ({
  roleWords: { technician: "technician" },
  useMe: () => door.me,
}));
vi.mock("../../api/people", () => ({
  lookAtLink: () =>
    Promise.resolve({ name: "Sunniva", workshop: "Quay End", role: "technician", login: null, shortestPassword: 15 }),
  join: vi.fn(),
  joinAsMyself: door.asMyself,
}));

beforeEach(() => {
  door.me = undefined;
  door.asMyself.mockReset();
  location.hash = "#token";
});
afterEach(cleanup);

const open = () =>
  render(
    <QueryClientProvider client={new QueryClient()}>
      <JoinPlace />
    </QueryClientProvider>,
  );

describe("JoinPlace", () => {
  it("asks whoever is not signed in for a name and a password", async () => {
    open();
    expect(await screen.findByLabelText("Name to sign in by")).toBeTruthy();
    expect(screen.queryByRole("button", { name: /as well/ })).toBeNull();
  });

  it("offers whoever is signed in the same way in, and tells why it cannot be", async () => {
    door.me = { name: "Ines", workshop: "Slipway" };
    door.asMyself.mockRejectedValueOnce(new Error("away"));
    open();
    const button = await screen.findByRole("button", { name: "Come to Quay End as well" });
    expect(screen.queryByLabelText("Password")).toBeNull();
    expect(screen.getByText(/Ines is signed in here, at Slipway/)).toBeTruthy();
    fireEvent.click(button);
    expect(door.asMyself).toHaveBeenCalledWith("token");
    expect((await screen.findByRole("alert")).textContent).toContain("That did not work");
  });
});

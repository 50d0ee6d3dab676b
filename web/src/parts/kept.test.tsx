import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { afterEach, describe, expect, it } from "vitest";
import { useSound } from "../places/Bench/notices";
import { telling, tell } from "./told";
import { Told } from "./Told";

afterEach(() => {
  cleanup();
  localStorage.clear();
});

function Switch() {
  const [on, set] = useSound();
  return <button onClick={() => set(!on)}>{on ? "Rings" : "Silent"}</button>;
}

function Ringer() {
  const [on] = useSound();
  return <p>{on ? "would ring" : "would not ring"}</p>;
}

describe("what a browser keeps", () => {
  it("is heard of by whoever shows it, at once", () => {
    render(
      <>
        <Ringer />
        <Switch />
      </>,
    );
    fireEvent.click(screen.getByRole("button", { name: "Silent" }));
    expect(screen.getByText("would ring")).toBeTruthy();
    cleanup();
    render(<Ringer />);
    expect(screen.getByText("would ring")).toBeTruthy();
  });
});

describe("what went wrong and belongs to no field", () => {
  it("is told until it is put away", async () => {
    render(<Told />);
    telling(Promise.reject(new Error("x")), "The run was not taken off.");
    await screen.findByText("The run was not taken off.");
    telling(Promise.resolve());
    fireEvent.click(screen.getByRole("button", { name: "Dismiss" }));
    expect(screen.queryByText("The run was not taken off.")).toBeNull();
    tell("Once.");
    tell("Once.");
    expect(await screen.findAllByText("Once.")).toHaveLength(1);
  });
});

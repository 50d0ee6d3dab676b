import { cleanup, fireEvent, render } from "@testing-library/react";
import { afterEach, expect, it, vi } from "vitest";
import { useShortcuts } from "./shortcuts";

afterEach(cleanup);

function Page({ space, go }: { space: () => void; go: () => void }) {
  useShortcuts({ " ": space, "g b": go });
  return (
    <>
      <button type="button">press</button>
      <input aria-label="words" />
      <article tabIndex={-1}>card</article>
    </>
  );
}

it("leaves keys to whatever has a use for them", () => {
  const space = vi.fn();
  const go = vi.fn();
  const page = render(<Page space={space} go={go} />);
  fireEvent.keyDown(page.getByText("press"), { key: " " });
  fireEvent.keyDown(page.getByLabelText("words"), { key: " " });
  expect(space).not.toHaveBeenCalled();
  fireEvent.keyDown(page.getByText("card"), { key: " " });
  expect(space).toHaveBeenCalledTimes(1);
  fireEvent.keyDown(window, { key: "g" });
  fireEvent.keyDown(window, { key: "b" });
  expect(go).toHaveBeenCalledTimes(1);
});

import { useState } from "react";
import { useBayChoices, type Bay, type BayActions, type BenchHands } from "../../api/bays";
import { sentenceOf } from "../../api/client";
import { Button } from "../../parts/Button";
import { readNumber } from "../../parts/words";
import { celsiusOf, degrees, degreeSign } from "../../parts/degrees";

const instruments = [
  ["room-thermometer", "Room thermometer"],
  ["sound-meter", "Sound level meter at 1 m"],
  ["contact-thermometer", "Contact thermometer on both tubes"],
] as const;

const held = ["room-thermometer", "sound-meter"];

/** Hands on a simulated machine: what is done to it and what is held to it. */
export function RigHands({ bay, actions }: { bay: Bay; actions: BayActions }) {
  const choices = useBayChoices();
  const [problem, setProblem] = useState<string>();
  const [room, setRoom] = useState("");
  // What was just done shows at once; the answer confirms it or takes it back.
  const [doing, setDoing] = useState<BenchHands>();
  const hands: BenchHands = doing ??
    bay.hands ?? {
      panelOff: false,
      cooler: null,
      roomC: null,
      instruments: held,
      program: false,
    };
  const set = (change: Partial<BenchHands>) => {
    setProblem(undefined);
    setDoing({ ...hands, ...change });
    actions
      .hands(bay.id, { ...hands, ...change })
      .catch((failure: unknown) => setProblem(sentenceOf(failure, "It did not work.")))
      .finally(() => setDoing(undefined));
  };
  const lifted = hands.cooler === "lifted";
  const inHand = hands.instruments ?? [];
  return (
    <div className="grid gap-3">
      <label className="flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          checked={hands.program}
          onChange={(event) => set({ program: event.target.checked })}
          className="size-6 accent-teal"
        />
        The owner’s program runs
      </label>
      <label className="flex min-h-11 items-center gap-3">
        <input
          type="checkbox"
          checked={hands.panelOff}
          onChange={(event) => set({ panelOff: event.target.checked })}
          className="size-6 accent-teal"
        />
        Side panel off
      </label>
      <label>
        <span className="text-muted">Cooler</span>
        <select
          value={hands.cooler ?? ""}
          onChange={(event) => set({ cooler: event.target.value || null })}
          className="min-h-11 w-full rounded-sm border border-edge bg-card px-2"
        >
          <option value="">{lifted ? "its own, mounted again" : "its own"}</option>
          <option value="lifted">lifted, to look at the paste</option>
          {(choices.data?.coolers ?? []).map((cooler) => (
            <option key={cooler.id} value={cooler.id}>
              {cooler.name}
            </option>
          ))}
        </select>
      </label>
      <form
        className="flex items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          const roomC = room.trim() === "" ? null : readNumber(room);
          if (roomC === undefined) {
            setProblem(`“${room}” is no number.`);
          } else {
            set({ roomC: roomC === null ? null : celsiusOf(roomC) });
          }
        }}
      >
        <label className="grow">
          <span className="text-muted">
            Carry it into a room of, {degreeSign()}
            {hands.roomC == null ? "" : ` (now ${degrees(hands.roomC)})`}
          </span>
          <input
            inputMode="decimal"
            value={room}
            onChange={(event) => setRoom(event.target.value)}
            className="min-h-11 w-full rounded-sm border border-edge bg-card px-2 font-mono"
          />
        </label>
        <Button type="submit">Carry</Button>
      </form>
      <fieldset className="m-0 border-0 p-0">
        <legend className="text-muted">Instruments</legend>
        {instruments.map(([id, words]) => (
          <label key={id} className="flex min-h-11 items-center gap-3">
            <input
              type="checkbox"
              checked={inHand.includes(id)}
              onChange={(event) =>
                set({ instruments: event.target.checked ? [...inHand, id] : inHand.filter((one) => one !== id) })
              }
              className="size-6 accent-teal"
            />
            {words}
          </label>
        ))}
      </fieldset>
      {problem && (
        <p role="alert" className="m-0 font-semibold text-amber">
          {problem}
        </p>
      )}
    </div>
  );
}

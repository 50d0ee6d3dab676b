import { useState } from "react";
import type { Bay, BayActions } from "../../api/bays";
import { sentenceOf } from "../../api/client";
import { Button } from "../../parts/Button";
import { readNumber } from "../../parts/words";
import { celsiusOf, degreeSign } from "../../parts/degrees";

const fields = [
  ["roomC", "Room", true],
  ["tubeOutC", "Tube to the radiator", true],
  ["tubeReturnC", "Tube back", true],
  ["soundDba", "Sound at 1 m", false],
] as const;

type Name = (typeof fields)[number][0];

/** What is read with an instrument in the hand while the run goes on; it lands in the run. */
export function ReadByHand({ bay, actions }: { bay: Bay; actions: BayActions }) {
  const [texts, setTexts] = useState<Partial<Record<Name, string>>>({});
  const [says, setSays] = useState<{ words: string; wrong: boolean }>();
  const typed = fields.filter(([name]) => (texts[name] ?? "").trim() !== "");
  const save = async () => {
    const wrong = typed.find(([name]) => readNumber(texts[name]!) === undefined);
    if (wrong) {
      setSays({ words: `“${texts[wrong[0]]}” is no number. Comma and point are both fine.`, wrong: true });
      return;
    }
    const read = (name: Name) => readNumber(texts[name] ?? "") ?? null;
    const warm = (name: Name) => {
      const typed = read(name);
      return typed === null ? null : celsiusOf(typed);
    };
    try {
      await actions.readByHand(bay.id, {
        roomC: warm("roomC"),
        tubeOutC: warm("tubeOutC"),
        tubeReturnC: warm("tubeReturnC"),
        soundDba: read("soundDba"),
      });
      setSays({ words: "Kept with the run.", wrong: false });
      setTexts({});
    } catch (failure) {
      setSays({ words: sentenceOf(failure, "It was not kept."), wrong: true });
    }
  };
  return (
    <form
      className="grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <div className="grid grid-cols-2 gap-x-3 gap-y-2">
        {fields.map(([name, label, isTemperature]) => (
          <label key={name} className="flex flex-col justify-end">
            <span className="text-muted">
              {label}, {isTemperature ? degreeSign() : "dB(A)"}
            </span>
            <input
              inputMode="decimal"
              value={texts[name] ?? ""}
              onChange={(event) => setTexts({ ...texts, [name]: event.target.value })}
              className="min-h-11 w-full rounded-sm border border-edge bg-card px-2 font-mono"
            />
          </label>
        ))}
      </div>
      <div className="flex items-center gap-4">
        <Button type="submit" disabled={typed.length === 0}>
          Keep
        </Button>
        {says && (
          <span role="status" className={says.wrong ? "font-semibold text-amber" : "text-muted"}>
            {says.words}
          </span>
        )}
      </div>
    </form>
  );
}

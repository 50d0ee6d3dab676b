import { useState } from "react";
import type { Schemas } from "../../api/client";
import { useSaveSetting, useSettings } from "../../api/settings";
import { Button } from "../../parts/Button";
import { Fold } from "../../parts/Fold";
import { touch } from "../../parts/touch";

type School = Schemas["School"];

const weights = [
  ["heat", "A degree", 0, 3],
  ["noise", "A decibel", 0, 4],
  ["price", "Money", 0, 5],
  ["failures", "Parts that can fail", 0, 0.3],
  ["liquid", "Liquid (left: liked)", -1.5, 1.5],
] as const;

/** How this workshop weighs coolers: begun from a school, set by hand. */
export function Weights({ schools }: { schools: readonly School[] }) {
  const settings = useSettings();
  const save = useSaveSetting();
  const own = settings.data?.weights ?? null;
  const [typed, setTyped] = useState<School>();
  const [problem, setProblem] = useState<string>();
  const now = typed ?? own ?? schools[0]!;
  const keep = (wanted: School | null) => {
    setProblem(undefined);
    void touch<School | null>(
      "settings:weights",
      own,
      () => wanted,
      (value, base) => save("weights", value, base),
    ).then((why) => (why ? setProblem(why) : setTyped(undefined)));
  };
  return (
    settings.data && (
      <Fold title="Our own weights" gist={own ? "set" : "not set: the list goes by a school"}>
        <div className="grid gap-y-0">
          {weights.map(([name, words, low, high]) => (
            <label key={name} className="grid grid-cols-[9rem_minmax(0,1fr)_3.5rem] items-center gap-3">
              <span className="text-muted">{words}</span>
              <input
                type="range"
                min={low}
                max={high}
                step={(high - low) / 60}
                value={now[name]}
                onChange={(event) => setTyped({ ...now, [name]: Number(event.target.value) })}
                className="min-h-11 accent-teal"
              />
              <output className="text-right font-mono">{now[name].toFixed(2)}</output>
            </label>
          ))}
        </div>
        {problem && (
          <p role="alert" className="m-0 font-semibold text-amber">
            {problem}
          </p>
        )}
        <div className="flex flex-wrap gap-3">
          <Button
            kind="main"
            disabled={typed === undefined}
            onClick={() => keep({ ...now, id: "own", title: "Our own", reason: "" })}
          >
            Order the list so
          </Button>
          <Button disabled={own === null} onClick={() => keep(null)}>
            Go by a school again
          </Button>
        </div>
      </Fold>
    )
  );
}

import { useState } from "react";
import { sentenceOf } from "../../api/client";
import { useSaveSettings, useSettings, type Settings } from "../../api/settings";
import { Button } from "../../parts/Button";
import { Failing, Loading } from "../../parts/States";
import { readNumber } from "../../parts/words";

const box = "min-h-11 w-32 rounded-sm border border-hairline bg-card px-2 font-mono text-lg";

/** What an hour's work costs, and the tax on it. */
export function Rates() {
  const settings = useSettings();
  if (!settings.data) {
    return settings.isError ? (
      <Failing sentence={settings.error.message} onRetry={() => void settings.refetch()} />
    ) : (
      <Loading what="the rates" />
    );
  }
  return <Form key={JSON.stringify(settings.data)} settings={settings.data} />;
}

function Form({ settings }: { settings: Settings }) {
  const save = useSaveSettings();
  const [hour, setHour] = useState((settings.labourMinorPerHour / 100).toFixed(2));
  const [tax, setTax] = useState(String(settings.taxPercent));
  const [problem, setProblem] = useState<string>();
  const rate = readNumber(hour);
  const percent = readNumber(tax);
  return (
    <form
      aria-label="What the workshop asks"
      className="grid gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (rate === undefined || percent === undefined) {
          setProblem("These are no numbers. Comma and point are both fine.");
          return;
        }
        setProblem(undefined);
        save({ ...settings, labourMinorPerHour: Math.round(rate * 100), taxPercent: percent }).catch(
          (failure: unknown) => setProblem(sentenceOf(failure, "It could not be kept.")),
        );
      }}
    >
      <h2 className="text-xl font-bold">What the workshop asks</h2>
      <p className="m-0 text-muted">Prices of parts are without tax; a quote adds labour, and tax on both.</p>
      <label className="flex items-center justify-between gap-3">
        <span>An hour’s work</span>
        <input inputMode="decimal" value={hour} onChange={(event) => setHour(event.target.value)} className={box} />
      </label>
      <label className="flex items-center justify-between gap-3">
        <span>Tax, %</span>
        <input inputMode="decimal" value={tax} onChange={(event) => setTax(event.target.value)} className={box} />
      </label>
      {problem && (
        <p role="alert" className="m-0 font-semibold text-amber">
          {problem}
        </p>
      )}
      <Button
        type="submit"
        className="justify-self-start"
        disabled={rate === settings.labourMinorPerHour / 100 && percent === settings.taxPercent}
      >
        Save
      </Button>
    </form>
  );
}

import { SettingField } from "../Workshop/SettingField";

/** What an hour's work costs, and the tax on it. */
export function Rates() {
  return (
    <section aria-label="What the workshop asks" className="grid gap-2">
      <h2 className="text-xl font-bold">What the workshop asks</h2>
      <p className="m-0 text-muted">Prices of parts are without tax; a quote adds labour, and tax on both.</p>
      <SettingField name="labourMinorPerHour" label="An hour’s work" kind="money" />
      <SettingField name="taxPercent" label="Tax, %" kind="number" />
      <SettingField name="mostPriceSharePercent" label="Parts cost at most, % of the chip’s price" kind="optional" />
    </section>
  );
}

import { useMe } from "../api/session";

/** Places behind the point of a currency; the minor unit is not a hundredth everywhere. */
export const digitsOf = (currency: string) =>
  new Intl.NumberFormat("en-GB", { style: "currency", currency }).resolvedOptions().maximumFractionDigits ?? 2;

/** An amount of the minor unit as it is typed: 4900 as 49.00. */
export const amount = (minor: number, digits: number) => (minor / 10 ** digits).toFixed(digits);

/** How many of the minor unit are one of the currency. */
export const minorIn = (currency: string) => 10 ** digitsOf(currency);

/** The currency that the workshop counts in. */
export const useCurrency = () => useMe()?.currency ?? "EUR";

/** Writes an amount of the currency's minor unit as the workshop counts, without the small change. */
export function useMoney(): (minor: number) => string {
  const currency = useCurrency();
  return (minor) =>
    new Intl.NumberFormat("en-GB", { style: "currency", currency, maximumFractionDigits: 0 }).format(
      minor / minorIn(currency),
    );
}

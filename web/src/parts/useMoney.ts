import { useSession } from "../api/session";

/** Places behind the point of a currency; the minor unit is not a hundredth everywhere. */
export const digitsOf = (currency: string) =>
  new Intl.NumberFormat("en-GB", { style: "currency", currency }).resolvedOptions().maximumFractionDigits ?? 2;

/** Writes an amount of the currency's minor unit as the workshop counts, without the small change. */
export function useMoney(): (minor: number) => string {
  const currency = useSession().data?.currency ?? "EUR";
  return (minor) =>
    new Intl.NumberFormat("en-GB", { style: "currency", currency, maximumFractionDigits: 0 }).format(
      minor / 10 ** digitsOf(currency),
    );
}

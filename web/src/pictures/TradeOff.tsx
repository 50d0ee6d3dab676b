import clsx from "clsx";
import { celsiusOf, degrees, degreeSign, pointOf } from "../parts/degrees";

/** A cooler on the picture; price in the currency's minor unit. */
export interface Offer {
  id: string;
  name: string;
  priceMinor: number;
  temperatureC: number;
  noiseDba: number;
  onFront: boolean;
  isCurrent: boolean;
}

const width = 400;
const height = 300;
const edge = { left: 44, right: 14, top: 26, bottom: 40 };

/** Round numbers between two ends, a few of them. */
export function ticks(low: number, high: number, few = 4): number[] {
  const rough = (high - low) / few || 1;
  const power = 10 ** Math.floor(Math.log10(rough));
  const step = [1, 2, 5, 10].map((one) => one * power).find((one) => one >= rough * (1 - 1e-9))!;
  const result = [];
  for (let at = Math.ceil(low / step) * step; at <= high + 1e-9; at += step) {
    result.push(Number(at.toFixed(6)));
  }
  return result;
}

/** What each cooler that fits costs and how hot the chip stays with it; those that nobody beats are filled, and the larger the ring the louder. */
export function TradeOff({
  offers,
  limitC,
  money,
  minor,
  chosen,
  onChoose,
}: {
  offers: readonly Offer[];
  limitC: number;
  money: (minor: number) => string;
  /** How many of the prices' minor unit are one of the currency. */
  minor: number;
  chosen?: string;
  onChoose: (id: string) => void;
}) {
  // Where nothing costs anything the axis still shows whole money.
  const most = Math.max(10 * minor, ...offers.map((one) => one.priceMinor)) * 1.05;
  const low = Math.min(limitC - 10, ...offers.map((one) => one.temperatureC)) - 3;
  const high = limitC + 8;
  const x = (price: number) => edge.left + ((width - edge.left - edge.right) * price) / most;
  const y = (degree: number) =>
    edge.top + ((height - edge.top - edge.bottom) * (high - Math.min(degree, high))) / (high - low);
  const front = offers.filter((one) => one.onFront).sort((a, b) => a.priceMinor - b.priceMinor);
  const size = (noise: number) => 4 + Math.max(0, noise - 20) / 4;
  return (
    <figure className="m-0">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        role="img"
        aria-label={`Price and temperature of ${offers.length} coolers that fit. ${front
          .map(
            (one) =>
              `${one.name}: ${money(one.priceMinor)}, ${degrees(one.temperatureC)}, ${one.noiseDba.toFixed(0)} dB(A)`,
          )
          .join("; ")}.`}
        className="w-full"
      >
        <defs>
          <pattern
            id="trade-off-limit"
            width="7"
            height="7"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <line x1="0" y1="0" x2="0" y2="7" className="stroke-hairline" strokeWidth="2" />
          </pattern>
        </defs>
        <rect
          x={edge.left}
          y={edge.top}
          width={width - edge.left - edge.right}
          height={y(limitC) - edge.top}
          fill="url(#trade-off-limit)"
        />
        <line x1={edge.left} x2={width - edge.right} y1={y(limitC)} y2={y(limitC)} className="stroke-ink" />
        <text x={width - edge.right} y={y(limitC) - 5} textAnchor="end" className="fill-ink text-[13px]">
          limit {degrees(limitC)}
        </text>
        {ticks(pointOf(low), pointOf(limitC - 4)).map((told) => (
          <g key={told}>
            <line
              x1={edge.left}
              x2={width - edge.right}
              y1={y(celsiusOf(told))}
              y2={y(celsiusOf(told))}
              className="stroke-hairline"
            />
            <text
              x={edge.left - 6}
              y={y(celsiusOf(told)) + 4}
              textAnchor="end"
              className="fill-muted font-mono text-[13px]"
            >
              {told}
            </text>
          </g>
        ))}
        {ticks(0, most / minor, 3).map((whole) => (
          <text
            key={whole}
            x={x(whole * minor)}
            y={height - edge.bottom + 18}
            textAnchor="middle"
            className="fill-muted font-mono text-[13px]"
          >
            {whole}
          </text>
        ))}
        <text x={edge.left - 34} y={16} className="fill-muted text-[13px]">
          {degreeSign()}
        </text>
        <text x={width - edge.right} y={height - 6} textAnchor="end" className="fill-muted text-[13px]">
          price
        </text>
        {offers.map((one) => (
          <circle
            key={one.id}
            cx={x(one.priceMinor)}
            cy={y(one.temperatureC)}
            r={size(one.noiseDba)}
            onClick={() => onChoose(one.id)}
            className={clsx(
              "cursor-pointer",
              one.id === chosen ? "fill-teal" : one.onFront ? "fill-teal-soft" : "fill-card",
              one.isCurrent ? "stroke-copper" : one.onFront ? "stroke-teal" : "stroke-edge",
            )}
            strokeWidth={one.isCurrent || one.id === chosen ? 3 : 1.5}
          >
            <title>{`${one.name}: ${money(one.priceMinor)}, ${degrees(one.temperatureC)}, ${one.noiseDba.toFixed(0)} dB(A)`}</title>
          </circle>
        ))}
      </svg>
      <figcaption className="text-muted">
        Larger rings are louder; filled are those that no other beats in price, temperature and noise at once.
        {offers.some((one) => one.isCurrent) && " In copper: the one that is on it."}
      </figcaption>
    </figure>
  );
}

using System.Globalization;
using Remedos.Core.Machines;

namespace Remedos.Core.Matching;

/// <summary>Puts candidates in the order of a school, finds the trade-off front, and says what to do and what would change it.</summary>
internal static class Ranking
{
    /// <summary>A quiet room, dB(A).</summary>
    private const double QuietDba = 20;

    /// <summary>Where nobody knows a chip's or a cooler's price, it costs about so much of the chip's.</summary>
    private const double UnknownPriceShare = 0.2;

    /// <summary>Cooler by less, or quieter by less, is no reason to spend anything.</summary>
    private const double WorthC = 5,
        WorthDba = 3;

    /// <summary>Differences that nobody could tell, °C and dB(A): within them neither is better.</summary>
    private const double SameC = 0.5,
        SameDba = 0.5;

    private const int MostChanges = 4;

    public static MatchAnswer Of(Build build, IReadOnlyList<Candidate> all, School school, IReadOnlyList<string> warnings)
    {
        Candidate? current = all.FirstOrDefault(one => one.IsCurrent);
        // What is there stays, unless it is heard and the school is for the ears.
        Candidate? kept =
            current is not null
            && Suffices(current)
            && !(school.Noise > 2 * school.Heat && all.Any(one => Suffices(one) && one.NoiseDba < current.NoiseDba - WorthDba))
                ? current
                : null;
        Candidate[] ordered =
        [
            .. all.OrderBy(one => Class(one, kept)).ThenBy(one => Score(build, one, school)).ThenBy(one => one.Id, StringComparer.Ordinal),
        ];
        List<Candidate> front = Front(all);
        int rank = 0;
        string watts = Watts(build);
        Candidate[] ranked =
        [
            .. ordered.Select(one =>
                one with
                {
                    Rank = one.Fits == false ? null : ++rank,
                    Why = Why(build, watts, one),
                    NextBetter = Next(one, front),
                }
            ),
        ];
        return new MatchAnswer(
            ranked,
            [.. front.Select(one => one.Id)],
            Advice(build, ranked, current, kept),
            Changes(build, all),
            warnings
        );
    }

    /// <summary>First what holds and suits, last what does not fit. What is there comes before all others when it suffices.</summary>
    private static int Class(Candidate one, Candidate? kept) =>
        one.Fits == false ? 6
        : one.Fits is null ? 5
        : ReferenceEquals(one, kept) ? 0
        : one.Throttles ? 4
        : one.Reasons.Any(reason => reason.Code is FitCode.Price or FitCode.Noise) ? 3
        : one.ThrottlesInHottestRoom ? 2
        : kept is not null && !IsWorth(one, kept) ? 2
        : 1;

    private static bool Suffices(Candidate one) =>
        one is { Fits: true, Throttles: false, ThrottlesInHottestRoom: false } && one.Reasons.Count == 0;

    private static bool IsWorth(Candidate one, Candidate current) =>
        one.TemperatureC.Value < current.TemperatureC.Value - WorthC || one.NoiseDba < current.NoiseDba - WorthDba;

    private static double Score(Build build, Candidate one, School school)
    {
        double allowed = Math.Max(1, build.Processor.TemperatureLimitC - build.RoomC);
        return (school.Heat * Math.Max(0, one.TemperatureC.Value - build.RoomC) / allowed)
            + (school.Noise * Math.Max(0, one.NoiseDba - QuietDba) / 10)
            + (school.Price * (one.PriceShare ?? (one.IsCurrent ? 0 : UnknownPriceShare)))
            + (school.Failures * one.FailurePoints)
            + (one.Kind == "liquid" ? school.Liquid : 0);
    }

    /// <summary>The cheapest first.</summary>
    private static List<Candidate> Front(IReadOnlyList<Candidate> all)
    {
        // One with which the chip throttles trades nothing, unless all do.
        bool someHold = all.Any(one => one is { Fits: true, Throttles: false });
        Candidate[] able =
        [
            .. all.Where(one => one.Fits == true && !(someHold && one.Throttles))
                .OrderBy(one => one.PriceMinor ?? long.MaxValue)
                .ThenBy(one => one.TemperatureC.Value),
        ];
        List<Candidate> front = [];
        foreach (Candidate one in able)
        {
            // Sorted by price, whoever came before costs no more.
            if (
                front.All(other =>
                    !(other.TemperatureC.Value <= one.TemperatureC.Value + SameC && other.NoiseDba <= one.NoiseDba + SameDba)
                )
            )
            {
                front.Add(one);
            }
        }

        return front;
    }

    private static NextBetter? Next(Candidate one, List<Candidate> front)
    {
        if (one is not { Fits: true, PriceMinor: { } price })
        {
            return null;
        }

        Candidate? next = front.Find(other => other.PriceMinor > price && other.TemperatureC.Value < one.TemperatureC.Value - 1);
        return next is null
            ? null
            : new NextBetter(
                next.Id,
                one.TemperatureC.Value - next.TemperatureC.Value,
                (next.PriceMinor!.Value - price) / (one.TemperatureC.Value - next.TemperatureC.Value)
            );
    }

    private static string Why(Build build, string watts, Candidate one)
    {
        if (one.Fits == false)
        {
            return one.Reasons.First(reason => reason.Code is not (FitCode.MeasureNeeded or FitCode.Price or FitCode.Noise)).Message;
        }

        if (one.Fits is null)
        {
            return one.Reasons.First(reason => reason.Code == FitCode.MeasureNeeded).Message;
        }

        string at = $"{watts} at {Degrees.At(one.TemperatureC.Value)}";
        // The same cooler may do for games and not for renders: which it is, the owner knows.
        string games =
            one.GamesC is not { } playing ? ""
            : playing <= build.Processor.TemperatureLimitC ? $" In games it stays at {Degrees.At(playing)}."
            : " Not even games.";
        return one.Throttles ? $"It carries {build.Processor.SustainedPowerW + one.HeadroomW:0} W of {watts}: the chip throttles.{games}"
            : one.ThrottlesInHottestRoom ? $"Holds {at}, but not in a room of {Degrees.At(build.HottestRoomC)}."
            : one.MoreThanUseful ? $"Holds {at}; it carries more than this chip can use."
            : $"Holds {at}, {one.HeadroomW:0} W to spare{(one.ByClaimAlone ? ", by its maker’s claim alone" : "")}.";
    }

    /// <summary>What heats the case meanwhile: a run of the processor alone stood lower.</summary>
    private static string Beside(Build build) => build.Graphics?.PowerW is > 0 and var card ? $" with the card at its {card:0} W" : "";

    private static string Advice(Build build, IReadOnlyList<Candidate> ranked, Candidate? current, Candidate? kept)
    {
        Candidate? best = ranked.FirstOrDefault(one => one.Rank == 1 && one.Fits == true);
        if (kept is not null)
        {
            Candidate? next = ranked
                .Where(one => !one.IsCurrent && one is { Fits: true, Throttles: false })
                .MinBy(one => one.TemperatureC.Value);
            double gains = kept.TemperatureC.Value - next?.TemperatureC.Value ?? 0;
            string gain =
                next is null || gains < 1
                    ? " Nothing that fits would gain a degree."
                    : $" {next.Name}, the coolest that fits, would gain {Degrees.By(gains)}{(gains < WorthC ? ": not worth it" : "")}.";
            return $"Leave it: {kept.Name} holds {Watts(build)} at {Degrees.At(kept.TemperatureC.Value)}{Beside(build)}"
                + (build.HottestRoomC > build.RoomC ? $", and at {Degrees.At(kept.HottestRoomTemperatureC.Value)} in the hottest room" : "")
                + $".{gain}";
        }

        if (best is null)
        {
            return ranked.Any(one => one.Fits is null)
                ? "Nothing can be said to fit before it is measured: see what each one needs."
                : "None of these fits. See what would change that.";
        }

        if (best.Throttles)
        {
            Candidate most = ranked.Where(one => one.Fits == true).MaxBy(one => one.HeadroomW)!;
            return $"Nothing that fits holds {Watts(build)}. {most.Name} comes nearest with "
                + $"{build.Processor.SustainedPowerW + most.HeadroomW:0} W: cap the power there, or let more air through the case.";
        }

        string change =
            current is null ? ""
            : current.Throttles ? $"; now it is held at {build.Processor.SustainedPowerW + current.HeadroomW:0} W"
            : $"; now {Degrees.At(current.TemperatureC.Value)}";
        string where = best.Place is null ? "" : $" at the {best.Place}";
        return $"{best.Name}{where}: {Watts(build)} at {Degrees.At(best.TemperatureC.Value)} (between "
            + $"{Degrees.Point(best.TemperatureC.Low):0} and "
            + $"{Degrees.Point(best.TemperatureC.High):0}){Beside(build)}, {best.NoiseDba:0} "
            + $"dB(A){change}.{(best.Reasons.Count > 0 ? $" {best.Reasons[0].Message}" : "")}";
    }

    private static string Watts(Build build) => $"{build.Processor.SustainedPowerW:0} W";

    /// <summary>For each obstacle that stands alone in the way of some: what would let them in.</summary>
    private static IReadOnlyList<string> Changes(Build build, IReadOnlyList<Candidate> all)
    {
        IEnumerable<(int Count, string Sentence)> Found()
        {
            foreach (
                IGrouping<FitCode, (Candidate One, FitReason Reason)> code in all.Where(one =>
                        one is { Fits: false, Throttles: false } && one.Reasons.Count == 1
                    )
                    .Select(one => (One: one, Reason: one.Reasons[0]))
                    .GroupBy(pair => pair.Reason.Code)
            )
            {
                double[] by = [.. code.Select(pair => pair.Reason.ByMm).OfType<double>().Order()];
                // As far as the half of them need.
                double need = by.Length > 0 ? by[(by.Length - 1) / 2] : 0;
                int count = by.Length > 0 ? by.Count(mm => mm <= need) : code.Count();
                string fit = count == 1 ? $"one more fits ({code.MinBy(pair => pair.Reason.ByMm ?? 0).One.Name})" : $"{count} more fit";
                string? sentence = code.Key switch
                {
                    FitCode.Memory when build.Memory?.HeightMm is { } height => $"With memory no higher than {Mm(height - need)}, {fit}.",
                    FitCode.TooTall when build.Case?.MaxCoolerHeightMm is { } room => $"In a case that takes {Mm(room + need)}, {fit}.",
                    FitCode.FirstSlot => $"With the card {Mm(need)} further away, in the next slot, {fit}.",
                    FitCode.CardLength when build.Graphics?.LengthMm is { } card => $"With a card no longer than {Mm(card - need)}, {fit}.",
                    FitCode.HeatSink => $"With {Mm(need)} more room over the board’s heat sinks, {fit}.",
                    FitCode.Hose => $"With hoses {Mm(need)} longer, {fit}.",
                    FitCode.RadiatorThickness => $"With {Mm(need)} more room for the radiator, {fit}.",
                    FitCode.NoHeader => $"With a fan hub, {fit}.",
                    FitCode.HeaderCurrent => $"With a hub that has its own supply, {fit}.",
                    _ => null,
                };
                if (sentence is not null)
                {
                    yield return (count, sentence);
                }
            }

            int dear = all.Count(one => one is { Fits: true, Throttles: false } && one.Reasons.Any(reason => reason.Code == FitCode.Price));
            if (dear > 0 && all.Where(one => one is { Fits: true, Throttles: false }).All(one => one.Reasons.Count > 0))
            {
                yield return (dear, $"With more to spend, {(dear == 1 ? "one more suits" : $"{dear} more suit")}.");
            }
        }

        return [.. Found().OrderByDescending(one => one.Count).Take(MostChanges).Select(one => one.Sentence)];
    }

    private static string Mm(double mm) => $"{mm.ToString("0.#", CultureInfo.InvariantCulture)} mm";
}

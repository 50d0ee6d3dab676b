using Remedos.Core.Machines;

namespace Remedos.Core.Matching;

/// <summary>A cooler, whether it fits, what it will do, and where it stands.</summary>
/// <param name="Fits">Null when it hangs on a measure that is not known.</param>
/// <param name="PriceShare">Of the chip's price.</param>
/// <param name="Rank">1 is best; null for one that does not fit.</param>
/// <param name="MoreThanUseful">Whether it carries more than the chip can turn into speed.</param>
public sealed record Candidate(
    string Id,
    string Name,
    string Kind,
    bool? Fits,
    IReadOnlyList<FitReason> Reasons,
    string? Place,
    double FanRaisedMm,
    Interval TemperatureC,
    Interval HottestRoomTemperatureC,
    bool Throttles,
    bool ThrottlesInHottestRoom,
    double? FanRpm,
    double NoiseDba,
    double HeadroomW,
    double? GraphicsChangeC,
    long? PriceMinor,
    double? PriceShare,
    double? ClaimedW,
    bool ByClaimAlone,
    bool Measured,
    int FailurePoints,
    bool MoreThanUseful,
    bool IsCurrent,
    IReadOnlyList<string> Plugs,
    int? Rank,
    string Why
)
{
    /// <summary>What it takes or wants although it fits, a sentence each.</summary>
    public IReadOnlyList<string> Notes { get; init; } = [];

    /// <summary>The room that is left where it fits, the tightest first.</summary>
    public IReadOnlyList<FitRoom> Left => Fit?.Left ?? [];

    internal FitResult? Fit { get; init; }

    /// <summary>Of one with which the chip throttles under full work: where a game brings it, °C; null for one that holds.</summary>
    public double? GamesC { get; init; }

    /// <summary>The predicted heat path; null for one that stands far down the list.</summary>
    public Runs.HeatStaircase? Staircase { get; init; }

    /// <summary>The next one on the front that is cooler, and what a degree of it costs; null for the coolest.</summary>
    public NextBetter? NextBetter { get; init; }
}

/// <summary>What the next better one gains, °C, and what a degree of it costs.</summary>
public sealed record NextBetter(string Id, double GainsC, double MinorPerC);

/// <summary>The answer to a build.</summary>
/// <param name="Front">Ids that no other one beats in price, temperature and noise at once.</param>
/// <param name="Changes">What would change the answer, a sentence each.</param>
public sealed record MatchAnswer(
    IReadOnlyList<Candidate> Candidates,
    IReadOnlyList<string> Front,
    string Advice,
    IReadOnlyList<string> Changes,
    IReadOnlyList<string> Warnings
);

/// <summary>Holds coolers against a build (docs/science.md, “Choosing a cooler”).</summary>
public static class Matcher
{
    /// <summary>More sentences about parts nobody reads.</summary>
    private const int MostContradictions = 5;

    /// <summary>So many at the head of the list get a picture of their heat path.</summary>
    private const int Pictured = 24;

    /// <summary>So much beyond what the chip can use is of no use to anybody.</summary>
    private const double ClearlyMore = 1.15;

    /// <summary>Answers a build and coolers whose <c>Problem</c> is null.</summary>
    /// <param name="weights">The workshop's own; null for the school that is asked for.</param>
    public static MatchAnswer Match(Build build, IReadOnlyList<CoolerPart> coolers, School? weights = null)
    {
        Predictor predictor = new(build);
        CoolerPart? current = coolers.FirstOrDefault(cooler => cooler.Id == build.CurrentCooler);
        double? airNow = current is null ? null : predictor.Best(current, Matching.Fit.Of(build, current)).CaseAirC;
        Candidate[] all = [.. coolers.Select(cooler => CandidateOf(build, predictor, cooler, airNow))];
        School school = weights ?? School.Of(build.Wants?.School);
        List<string> warnings = [.. build.Contradictions()];
        warnings.AddRange(coolers.Select(cooler => cooler.Contradiction()).OfType<string>().Take(MostContradictions));
        if (build.CurrentCooler is { } missing && current is null)
        {
            warnings.Add($"The cooler that is on it, “{missing}”, is not among the coolers: nothing can be said of keeping it.");
        }

        if (build.Processor.InsideResistanceCPerW is null)
        {
            warnings.Add("The processor’s own resistance is not known: temperatures are wider by it.");
        }

        MatchAnswer answer = Ranking.Of(build, all, school, warnings);
        return answer with
        {
            Candidates =
            [
                .. answer.Candidates.Select(one =>
                    one.IsCurrent || one.Rank <= Pictured
                        ? one with
                        {
                            Staircase = predictor.StaircaseOf(
                                coolers.First(cooler => cooler.Id == one.Id),
                                one.Place,
                                build.Wants?.MaxNoiseDba
                            ),
                        }
                        : one
                ),
            ],
        };
    }

    private static Candidate CandidateOf(Build build, Predictor predictor, CoolerPart cooler, double? airNow)
    {
        FitResult fit = Matching.Fit.Of(build, cooler);
        bool isCurrent = cooler.Id == build.CurrentCooler;
        Prediction does = predictor.Best(cooler, fit);
        List<FitReason> reasons = [.. fit.Reasons];
        long? price = isCurrent ? 0 : cooler.PriceMinor;
        if (build.Wants?.MaxPriceMinor is { } most && price > most)
        {
            reasons.Add(
                new FitReason(FitCode.Price, null, $"It costs {100.0 * (price.Value - most) / Math.Max(1, most):0} % more than wanted.")
            );
        }

        if (build.Wants?.MaxNoiseDba is { } quiet && does.NoiseDba > quiet + 0.5)
        {
            reasons.Add(
                new FitReason(FitCode.Noise, null, $"It is heard with {does.NoiseDba:0} dB(A), {does.NoiseDba - quiet:0} more than wanted.")
            );
        }

        double useful = Math.Max(build.Processor.UsefulPowerW ?? double.PositiveInfinity, build.Processor.SustainedPowerW);
        return new Candidate(
            cooler.Id,
            cooler.Name,
            cooler.Kind,
            isCurrent ? true : fit.Fits,
            isCurrent ? [.. reasons.Where(reason => reason.Code is FitCode.Noise)] : reasons,
            does.Place,
            fit.FanRaisedMm,
            does.TemperatureC,
            does.HottestRoomTemperatureC,
            does.Throttles,
            does.HottestRoomTemperatureC.Value > build.Processor.TemperatureLimitC,
            does.FanRpm,
            does.NoiseDba,
            does.HeadroomW,
            build.Graphics is null || airNow is null ? null : does.CaseAirC - airNow,
            price,
            build.Processor.PriceMinor is > 0 and { } chip && price is { } cost ? (double)cost / chip : null,
            cooler.ClaimedW,
            does.ByClaimAlone,
            cooler.Measured,
            cooler.FailurePoints,
            does.HoldsW > useful * ClearlyMore,
            isCurrent,
            fit.Plugs,
            null,
            ""
        )
        {
            Notes = cooler.Note is null ? fit.Notes : [cooler.Note, .. fit.Notes],
            Fit = fit,
            GamesC = does.GamesC,
        };
    }
}

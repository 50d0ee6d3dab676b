namespace Remedos.Core.Planning;

/// <summary>
/// How minutes taken lie to minutes planned, for a kind of work: log-normal, its median and scatter learnt from what was logged and kept
/// near
/// what is judged beforehand while little was.
/// </summary>
/// <param name="Factor">The median of taken over planned; 1 is as planned.</param>
/// <param name="Sigma">Standard deviation of the logarithm.</param>
/// <param name="Logged">How many it was learnt from.</param>
public sealed record Spread(double Factor, double Sigma, int Logged)
{
    /// <summary>As much as so many logged pieces.</summary>
    private const double PriorMedianWeighs = 4,
        PriorSigmaWeighs = 6;

    /// <summary>Hands at work are interrupted and find surprises; a run is led by a clock, and paste settles by one.</summary>
    private const double HandsSigma = 0.35,
        RunSigma = 0.15;

    /// <summary>A ratio beyond these is a clock that was forgotten, not work.</summary>
    public const double LeastRatio = 0.1,
        MostRatio = 10;

    /// <summary>Before anything was logged.</summary>
    public static Spread Prior(WorkKind kind) =>
        new(
            1,
            kind switch
            {
                WorkKind.Settle => 0,
                WorkKind.Run => RunSigma,
                _ => HandsSigma,
            },
            0
        );

    /// <summary>Learnt from logged pieces of one kind: the prior of a normal with unknown mean and variance, in logarithms.</summary>
    /// <param name="logged">How many pieces.</param>
    /// <param name="sum">Of the logarithms of taken over planned.</param>
    /// <param name="squares">Of their squares.</param>
    public static Spread Learnt(WorkKind kind, int logged, double sum, double squares)
    {
        Spread prior = Prior(kind);
        if (logged == 0)
        {
            return prior;
        }

        double mean = sum / logged,
            median = sum / (PriorMedianWeighs + logged),
            within = Math.Max(0, squares - (logged * mean * mean)),
            between = PriorMedianWeighs * logged / (PriorMedianWeighs + logged) * mean * mean;
        return new Spread(
            Math.Exp(median),
            Math.Sqrt(((PriorSigmaWeighs * prior.Sigma * prior.Sigma) + within + between) / (PriorSigmaWeighs + logged)),
            logged
        );
    }

    /// <summary>The logarithm of taken over planned; null where it says nothing.</summary>
    public static double? LogRatio(double taken, double planned) =>
        planned > 0 && taken / planned is >= LeastRatio and <= MostRatio ? Math.Log(taken / planned) : null;

    /// <summary>What a piece takes, at a point of the distribution.</summary>
    /// <param name="z">Standard deviations from the median.</param>
    public WorkPiece Of(WorkPiece piece, double z)
    {
        double factor = Factor * Math.Exp(z * Sigma);
        return piece.Kind == WorkKind.Settle ? piece
            // A run's hands are minutes of cabling; what varies is how long it has to go on.
            : piece.Bay ? piece with { AloneMinutes = piece.AloneMinutes * factor }
            : piece with { HandsMinutes = piece.HandsMinutes * factor };
    }
}

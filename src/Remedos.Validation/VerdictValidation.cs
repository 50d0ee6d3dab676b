using Remedos.Core.Comparison;

namespace Remedos.Validation;

/// <summary>How many mounts and runs a side has.</summary>
public sealed record Protocol(int Mounts, int RunsOfMount)
{
    public string Name => $"{Mounts} {(Mounts == 1 ? "mount" : "mounts")} × {RunsOfMount} {(RunsOfMount == 1 ? "run" : "runs")}";
}

/// <summary>What verdicts of a protocol are worth.</summary>
/// <param name="FalseVerdicts">Share of comparisons of a machine with itself that were called better or worse.</param>
/// <param name="Coverage">Share of intervals that held the true change.</param>
/// <param name="HalfWidthC">Median half of the 95 % interval, °C.</param>
/// <param name="SmallestC">Median of what was promised to be found four times in five, °C.</param>
/// <param name="FoundAtSmallest">How often a true change of that size was found.</param>
public sealed record VerdictRow(
    Protocol Protocol,
    double FalseVerdicts,
    double Coverage,
    double HalfWidthC,
    double SmallestC,
    double FoundAtSmallest
);

/// <summary>Whether “n more would settle it” is kept.</summary>
/// <param name="Open">How many comparisons were open and got an answer.</param>
/// <param name="Found">Share that was settled when a change of that size was true and the further mounts or runs were made.</param>
/// <param name="Mean">Mean number that was asked for.</param>
public sealed record WantedRow(Protocol Protocol, int Open, double Found, double Mean);

/// <summary>Verdicts over simulated benches: mounts, days, rooms, fan speeds, watts. The product's own comparison judges them.</summary>
public static class VerdictValidation
{
    public static readonly Protocol[] Protocols = [new(1, 1), new(1, 3), new(2, 1), new(2, 2), new(3, 1), new(4, 2)];

    private const double RoomC = 0.3,
        WithinC = 0.25;

    /// <summary>A row a protocol.</summary>
    /// <param name="cases">Benches a protocol.</param>
    /// <param name="seed">Of the first.</param>
    /// <param name="learnt">What the workshop has learnt of its bench; null for a new one. The true scatter is drawn about it.</param>
    public static IReadOnlyList<VerdictRow> Run(int cases, int seed, Repeatability? learnt = null) =>
        [.. Protocols.Select((protocol, k) => RowOf(protocol, cases, seed + (1000 * k), learnt ?? Repeatability.Prior))];

    /// <summary>Draws open comparisons and makes the further mounts or runs that were asked for.</summary>
    public static WantedRow Wanted(Protocol protocol, int cases, int seed, Repeatability? learnt = null)
    {
        Repeatability known = learnt ?? Repeatability.Prior;
        int open = 0,
            found = 0,
            asked = 0;
        for (int i = 0; i < cases; i++)
        {
            Case one = new(seed + i, known);
            ComparisonResult first = one.Compare(protocol, protocol, -1 - (3 * one.Uniform()));
            if (first is not { Verdict: Verdict.NoMeasurableChange, Wanted: { } wanted, Change: { } change })
            {
                continue;
            }

            open++;
            asked += wanted.Mounts + wanted.Runs;
            ComparisonResult then = one.Compare(protocol, protocol, change.AtReferencePowerC, wanted);
            found += then.Verdict != Verdict.NoMeasurableChange ? 1 : 0;
        }

        return new WantedRow(protocol, open, open == 0 ? 0 : (double)found / open, open == 0 ? 0 : (double)asked / open);
    }

    private static VerdictRow RowOf(Protocol protocol, int cases, int seed, Repeatability known)
    {
        int wrong = 0,
            held = 0,
            seen = 0;
        List<double> widths = [],
            smallest = [];
        for (int i = 0; i < cases; i++)
        {
            Case one = new(seed + i, known);
            ComparisonResult nothing = one.Compare(protocol, protocol, 0);
            wrong += nothing.Verdict != Verdict.NoMeasurableChange ? 1 : 0;
            widths.Add(nothing.Change!.HalfWidthC);
            smallest.Add(nothing.SmallestDetectableC!.Value);
            double trueC = -20 * one.Uniform();
            Change change = one.Compare(protocol, protocol, trueC).Change!;
            held += Math.Abs(change.AtReferencePowerC - one.TrueChangeC) <= change.HalfWidthC ? 1 : 0;
            seen += one.Compare(protocol, protocol, -nothing.SmallestDetectableC.Value).Verdict == Verdict.Improved ? 1 : 0;
        }

        return new VerdictRow(
            protocol,
            (double)wrong / cases,
            (double)held / cases,
            Median(widths),
            Median(smallest),
            (double)seen / cases
        );
    }

    private static double Median(List<double> values) => values.Order().ElementAt(values.Count / 2);

    /// <summary>A bench and a machine, drawn once; runs are drawn anew each time.</summary>
    private sealed class Case
    {
        private readonly Random _random;
        private readonly SimulatedRuns _runs;
        private readonly Repeatability _known;

        public Case(int seed, Repeatability known)
        {
            _random = new Random(seed);
            _known = known;
            // What is known of the scatter is worth some degrees of freedom; the true one is drawn about it accordingly.
            double chi = 0;
            SimulatedRuns draw = new(_random, new TrueBench(1, 1, 1));
            for (int k = 0; k < known.MountDegrees; k++)
            {
                chi += Math.Pow(draw.Normal(), 2);
            }

            _runs = new SimulatedRuns(_random, new TrueBench(known.MountC * Math.Sqrt(known.MountDegrees / chi), WithinC, RoomC));
        }

        /// <summary>Of the last comparison, at the before runs' power and fan speed, °C.</summary>
        public double TrueChangeC { get; private set; }

        public double Uniform() => _random.NextDouble();

        /// <summary>
        /// Compares the machine with one whose fixed part has changed by so many degrees; rooms, fans and watts differ too.
        /// </summary>
        public ComparisonResult Compare(Protocol before, Protocol after, double changeC, Wanted? more = null)
        {
            TrueMachine then = new(0.20 + (0.3 * Uniform()), 0.05 + (0.15 * Uniform()), 1 + (2 * Uniform()), 80 + (80 * Uniform()));
            double rpm = 700 + (800 * Uniform()),
                room = 18 + (8 * Uniform());
            // Cooler chips draw a little less, and automatic fans follow.
            TrueMachine now = then with
            {
                FixedCPerW = then.FixedCPerW + (changeC / then.PowerW),
                PowerW = then.PowerW * (1 + (0.001 * changeC)),
            };
            List<ConditionedRun> left = [.. Runs(then, before, rpm, room, more)],
                right = [.. Runs(now, after, rpm * Math.Max(0.5, 1 + (0.02 * changeC)), room + (6 * Uniform()) - 3, more)];
            TrueChangeC = changeC;
            return Comparer.Compare(left, right, _known);
        }

        private IEnumerable<ConditionedRun> Runs(TrueMachine machine, Protocol protocol, double rpm, double room, Wanted? more)
        {
            for (int mount = 0; mount < protocol.Mounts + (more?.Mounts ?? 0); mount++)
            {
                int extra = more is { Runs: > 0 } ? more.Runs / protocol.Mounts + (mount < more.Runs % protocol.Mounts ? 1 : 0) : 0;
                foreach (ConditionedRun run in _runs.Mount(machine, mount < protocol.Mounts ? protocol.RunsOfMount + extra : 1, rpm, room))
                {
                    yield return run;
                }
            }
        }
    }
}

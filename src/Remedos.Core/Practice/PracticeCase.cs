using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using Remedos.Core.Airflow;
using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Simulation;
using Remedos.Core.SteadyState;

namespace Remedos.Core.Practice;

/// <summary>
/// A machine of the library with hidden faults, drawn from a seed by the tables' own priors: the same seed and level are the same case,
/// wherever it is drawn.
/// </summary>
public sealed class PracticeCase
{
    /// <summary>A sound machine keeps so far from its limit, and one that is too small goes beyond it by so much, °C.</summary>
    private const double ClearC = 4,
        BeyondC = 2;

    private const int Draws = 2000;

    /// <summary>
    /// Faults that a bay cannot bring to light: it loads the processor and leaves the card alone.
    /// </summary>
    internal static readonly string[] NotHere = ["gpu-cooling"];

    /// <summary>Machines of the library that were bought complete.</summary>
    public static IReadOnlyList<string> Complete { get; } = ["office-prebuilt", "bakery-till", "clinic-compact", "box-cooler-chiplet"];

    private static readonly string[] Owners =
    [
        "Rope loft",
        "Ferry office",
        "Miss Aldous, piano teacher",
        "Tide mill museum",
        "Net makers’ hall",
        "Chart room",
        "Mr Quill, translator",
        "Kiln and clay",
        "Lighthouse trust",
        "Harbour choir",
        "Sail printers",
        "Oyster shed",
    ];

    private PracticeCase(
        PracticeLevel level,
        int seed,
        MachineRow row,
        BenchMachine machine,
        CaseMachine known,
        Dictionary<string, double> faults,
        string? theory,
        string owner
    )
    {
        (Level, Seed, Row, Machine, Known, Faults, Theory, Owner) = (level, seed, row, machine, known, faults, theory, owner);
    }

    /// <summary>How hard it is.</summary>
    public PracticeLevel Level { get; }

    /// <summary>What it was drawn from.</summary>
    public int Seed { get; }

    /// <summary>The machine, its parts by id.</summary>
    public MachineRow Row { get; }

    /// <summary>The same, its parts in it.</summary>
    public BenchMachine Machine { get; }

    /// <summary>What can be known of it without looking.</summary>
    public CaseMachine Known { get; }

    /// <summary>What is wrong with it: severities 0 … 1 by cause.</summary>
    public IReadOnlyDictionary<string, double> Faults { get; }

    /// <summary>A cause that its owner is sure of, and that is not there; null for none.</summary>
    public string? Theory { get; }

    /// <summary>Whose it is.</summary>
    public string Owner { get; }

    /// <summary>What its owner says when it is put on the counter.</summary>
    public string Story => OwnerWords.Of(new Witness(this), Theory);

    /// <summary>What its runs are held against: its parts are known.</summary>
    public ReferenceMachine Reference => AirPlanner.ReferenceOf(Machine.Build, Machine.Cooler)!;

    /// <summary>Four letters that two drawings of the same case have in common; another version may draw another.</summary>
    public string Check
    {
        get
        {
            string all = string.Join(
                '|',
                Faults
                    .OrderBy(fault => fault.Key, StringComparer.Ordinal)
                    .Select(fault => string.Create(CultureInfo.InvariantCulture, $"{fault.Key}={fault.Value:0.000}"))
                    .Prepend($"{Row.Id} {Row.Cooler} {Theory} {Owner}")
            );
            return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(all)))[..8];
        }
    }

    /// <summary>Draws a case.</summary>
    /// <param name="seed">0 or more.</param>
    public static PracticeCase Draw(PracticeLevel level, int seed)
    {
        Random random = new(Mixed(seed, level.Number));
        for (int draw = 0; draw < Draws; draw++)
        {
            MachineRow row = MachineLibrary.Rows[random.Next(MachineLibrary.Rows.Count)];
            BenchMachine spec = MachineLibrary.Resolve(row, out _)!;
            CaseMachine known = new(
                spec.Cooler.Kind,
                Math.Round(2 + (58 * random.NextDouble())),
                Complete.Contains(row.Id),
                DiagnosisTables.Settings[random.Next(DiagnosisTables.Settings.Length)],
                HasCard: spec.Graphics is not null
            );
            double[] odds = [.. DiagnosisNetwork.Priors(known).Select((p, i) => NotHere.Contains(DiagnosisTables.Causes[i].Id) ? 0 : p)];
            Dictionary<string, double> faults = [];
            int wanted = random.NextDouble() < level.SoundShare ? 0 : level.Faults;
            while (faults.Count < wanted)
            {
                faults.TryAdd(OneOf(odds, random), level.LeastSeverity + ((1 - level.LeastSeverity) * random.NextDouble()));
            }

            // Two causes of one repair are mended together, and one would not be missed.
            if (faults.Keys.Select(fault => DiagnosisTables.CauseOf(fault).Repair).Distinct().Count() < faults.Count)
            {
                continue;
            }

            if (
                WithCooler(row, faults.ContainsKey(FeltFaults.TooSmall), random) is not { } fitting
                || FeltFaults.Of(fitting.Machine, faults, level.FeltC) is not { } felt
                || IsHidden(felt)
            )
            {
                continue;
            }

            string? theory = null;
            while (level.Tells == OwnerTells.Misleadingly && theory is null)
            {
                string one = OneOf(odds, random);
                theory = felt.ContainsKey(one) || !OwnerWords.HasTheory(one) ? null : one;
            }

            return new PracticeCase(
                level,
                seed,
                fitting.Row,
                fitting.Machine,
                known with
                {
                    CoolerKind = fitting.Machine.Cooler.Kind,
                },
                felt,
                theory,
                Owners[random.Next(Owners.Length)]
            );
        }

        throw new InvalidOperationException($"No case of level {level.Number} could be drawn from {seed}.");
    }

    /// <summary>The machine with another of the library's coolers on it; null, with a sentence, where it cannot be mounted.</summary>
    /// <param name="cooler">By id; null for its own.</param>
    public BenchMachine? With(string? cooler, out string? problem) => With(Row, cooler, out problem);

    /// <summary>Whether it would hold at its rated watts with a cooler, all else sound.</summary>
    public bool Holds(string? cooler) =>
        With(cooler, out _) is { } machine && FeltFaults.AtRatedC(machine, machine.RoomC) < machine.Processor.TemperatureLimitC;

    private static BenchMachine? With(MachineRow row, string? cooler, out string? problem)
    {
        TrueCooler? other = cooler is null ? null : MachineLibrary.Coolers.FirstOrDefault(one => one.Id == cooler);
        if (cooler is not null && other is null)
        {
            problem = $"There is no cooler “{cooler}” on this bench.";
            return null;
        }

        return MachineLibrary.Resolve(OnRow(row, other), out problem);
    }

    private static MachineRow OnRow(MachineRow row, TrueCooler? other) =>
        other is null ? row : row with { Cooler = other.Id, Radiator = other.Part.IsLiquid ? row.Radiator ?? "top-out" : null };

    /// <summary>Its own cooler where that is as it should be for the case, else one of the library's of its kind.</summary>
    private static (MachineRow Row, BenchMachine Machine)? WithCooler(MachineRow row, bool tooSmall, Random random)
    {
        bool Goes(BenchMachine spec) =>
            FeltFaults.AtRatedC(spec, spec.RoomC) - spec.Processor.TemperatureLimitC is var over
            && (tooSmall ? over > BeyondC : over < -ClearC);
        BenchMachine own = MachineLibrary.Resolve(row, out _)!;
        if (Goes(own))
        {
            return (row, own);
        }

        (MachineRow Row, BenchMachine Machine)[] others =
        [
            .. MachineLibrary
                .Coolers.Where(cooler => cooler.Part.IsLiquid == own.Cooler.IsLiquid && cooler.Part.FullRpm > 0)
                .Select(cooler => (Row: OnRow(row, cooler), Machine: With(row, cooler.Id, out _)))
                .Where(one => one.Machine is not null && Goes(one.Machine))
                .Select(one => (one.Row, one.Machine!)),
        ];
        return others.Length == 0 ? null : others[random.Next(others.Length)];
    }

    /// <summary>Whether one fault undoes another, so that only the second could be found.</summary>
    private static bool IsHidden(Dictionary<string, double> faults) =>
        faults.Count > 1 && (faults.ContainsKey("clock-held") || faults.ContainsKey("power-limited"));

    /// <summary>
    /// Two numbers as a seed: those that lie side by side must not draw alike (the finaliser of Steele, Lea &amp; Flood 2014).
    /// </summary>
    internal static int Mixed(int one, int other)
    {
        ulong z = ((ulong)(uint)one << 32) | (uint)other;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EB;
        return (int)((z ^ (z >> 31)) & int.MaxValue);
    }

    private static string OneOf(double[] odds, Random random) => DiagnosisTables.Causes[Drawn(odds, random)].Id;

    /// <summary>A place, each as often as its weight has it.</summary>
    internal static int Drawn(double[] weights, Random random)
    {
        double left = random.NextDouble() * weights.Sum();
        int place = 0;
        while (place < weights.Length - 1 && (left -= weights[place]) >= 0)
        {
            place++;
        }

        return place;
    }
}

using Remedos.Core.Diagnosis;

namespace Remedos.Core.Practice;

/// <summary>
/// What the owner, eyes and hands tell of a case, drawn from the reviewed tables. Each answer hangs on the seed and the question alone:
/// asked twice, in whatever order, it is the same.
/// </summary>
public sealed class Witness
{
    /// <summary>An owner has not noticed so many of the things that are asked.</summary>
    private const double UnknownShare = 0.2;

    /// <summary>Tubes that differ by this much feel hot and cold, °C.</summary>
    private const double OneHotC = 8;

    private readonly PracticeCase _case;
    private readonly Lazy<(double DifferenceC, bool Cold)> _tubes;
    private readonly string[] _left;
    private readonly bool _cleaned;

    /// <summary>Of a case as it stands.</summary>
    /// <param name="cured">Causes that are gone by now; what the owner tells is of how it came in.</param>
    /// <param name="cleaned">Whether its dust was blown out: the harmless as well.</param>
    public Witness(PracticeCase practice, IEnumerable<string>? cured = null, bool cleaned = false)
    {
        (_case, _cleaned) = (practice, cleaned);
        _left = [.. practice.Faults.Keys.Except(cured ?? [])];
        _tubes = new(() =>
            new CaseOnBench(
                practice.Machine,
                practice.Reference.Machine,
                practice.Faults.Where(fault => _left.Contains(fault.Key)),
                null,
                practice.Seed
            ).Tubes()
        );
    }

    /// <summary>What is told.</summary>
    /// <param name="evidence">What the owner is asked, or eyes and hands look for.</param>
    /// <returns>Null where whoever is asked does not know, or this machine cannot show it.</returns>
    public EvidenceItem? Tell(string evidence)
    {
        EvidenceRow? row = DiagnosisTables.EvidenceOf(evidence);
        return row is null || !CanTell(_case, row) ? null
            : evidence == "tube-difference" ? new EvidenceItem(evidence, TubeState())
            : evidence == "dust" && _cleaned ? new EvidenceItem(evidence, row.States[0])
            : StateOf(row) is { } state ? new EvidenceItem(evidence, state)
            : null;
    }

    /// <summary>Whether somebody can tell it of such a machine, without measuring.</summary>
    public static bool CanTell(PracticeCase practice, EvidenceRow row) => row.Kind is "symptom" or "look" && row.IsAskedOf(practice.Known);

    /// <summary>Whether it is the owner who is asked, and not eyes and ears.</summary>
    public static bool IsOwners(EvidenceRow row) => row is { Kind: "symptom", Untouched: false };

    private string TubeState() =>
        _tubes.Value.DifferenceC > OneHotC ? "one-hot"
        : _tubes.Value.Cold ? "both-cold"
        : "even";

    private string? StateOf(EvidenceRow row)
    {
        Random random = new(PracticeCase.Mixed(_case.Seed, Fold(row.Id)));
        bool owners = IsOwners(row);
        string[] causes = owners ? [.. _case.Faults.Keys] : _left;
        if (owners && _case.Level.Tells != OwnerTells.Clearly && random.NextDouble() < UnknownShare)
        {
            return null;
        }

        if (owners && _case.Theory is { } theory && row.Effects.ContainsKey(theory))
        {
            return row.Telling[Likeliest(Chances(row, [theory]))];
        }

        double[] chances = Chances(row, causes);
        return row.Telling[_case.Level.Tells == OwnerTells.Clearly ? Likeliest(chances) : PracticeCase.Drawn(chances, random)];
    }

    /// <summary>How often each state is seen with some causes.</summary>
    private double[] Chances(EvidenceRow row, IReadOnlyList<string> causes)
    {
        int at = SetOf(causes);
        return [.. DiagnosisNetwork.Likelihood(row, _case.Known with { ByKind = false }).Select(state => state[at])];
    }

    /// <summary>Where the set of just these causes stands in the network's order.</summary>
    internal static int SetOf(IEnumerable<string> causes) =>
        Array.IndexOf(
            DiagnosisNetwork.Sets,
            causes.Aggregate(0u, (bits, cause) =>
                bits | (1u << Enumerable.Range(0, DiagnosisTables.Causes.Count).First(i => DiagnosisTables.Causes[i].Id == cause))
            )
        );

    private static int Likeliest(double[] chances) => Array.IndexOf(chances, chances.Max());

    /// <summary>A text as a number, the same on every machine (Fowler, Noll &amp; Vo’s hash).</summary>
    private static int Fold(string text) => (int)text.Aggregate(2166136261u, (hash, letter) => (hash ^ letter) * 16777619);
}

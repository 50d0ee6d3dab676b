using System.Globalization;
using Remedos.Core.Machines;

namespace Remedos.Core.Diagnosis;

/// <summary>What is known of a machine before anything is looked at. Every field is optional.</summary>
/// <param name="CoolerKind">down-draught, tower, dual-tower, liquid or passive.</param>
/// <param name="Setting">office, home, pets-or-smoke, workshop-dust, flour-dust or cupboard.</param>
/// <param name="LastDone">What was done to it last, of <see cref="DiagnosisTables.LastDone"/>.</param>
/// <param name="Series">What the workshop has found in machines with the same cooler.</param>
/// <param name="HasCard">Whether it has a graphics card of its own.</param>
/// <param name="ByKind">Whether its runs were held against the usual machine of its kind of cooler, because its parts are not
/// known.</param>
/// <param name="Cured">Causes that an earlier repair found and saw to.</param>
public sealed record CaseMachine(
    string? CoolerKind = null,
    double? AgeMonths = null,
    bool? Prebuilt = null,
    string? Setting = null,
    string? LastDone = null,
    SeriesRecord? Series = null,
    bool? HasCard = null,
    bool? ByKind = null,
    IReadOnlyList<string>? Cured = null
)
{
    /// <summary>Of machines whose cooler is not known, about so many are cooled by a liquid.</summary>
    public const double LiquidShare = 0.3;

    /// <summary>Whether a condition of the tables can be asked.</summary>
    internal static bool CanAsk(string when) => new CaseMachine().Ask(when) is not null;

    /// <summary>Whether a condition holds; false when what it asks for is not known, null when it cannot be asked.</summary>
    internal bool? Ask(string when)
    {
        if (
            when.StartsWith("ageMonths>=", StringComparison.Ordinal)
            && double.TryParse(when[11..], CultureInfo.InvariantCulture, out double least)
        )
        {
            return AgeMonths >= least;
        }

        if (
            when.StartsWith("ageMonths<", StringComparison.Ordinal)
            && double.TryParse(when[10..], CultureInfo.InvariantCulture, out double most)
        )
        {
            return AgeMonths < most;
        }

        string[] parts = when.Split('=');
        return parts is not [var name, var value]
            ? null
            : name switch
            {
                "coolerKind" when CoolerPart.Kinds.Contains(value) => CoolerKind == value,
                "setting" when DiagnosisTables.Settings.Contains(value) => Setting == value,
                "lastDone" when DiagnosisTables.LastDone.Contains(value) => LastDone == value,
                "prebuilt" when value == "true" => Prebuilt == true,
                _ => null,
            };
    }
}

/// <summary>An observation.</summary>
/// <param name="Doubtful">Whether whoever made it is not sure: it then weighs as if it were right three times in five.</param>
public sealed record EvidenceItem(string Id, string State, bool Doubtful = false);

/// <summary>A machine and what has been observed.</summary>
public sealed record DiagnosisCase(CaseMachine Machine, IReadOnlyList<EvidenceItem> Evidence)
{
    /// <summary>The first thing that cannot be, as a sentence; null when all is well.</summary>
    public string? Problem()
    {
        string? machine =
            Machine.CoolerKind is { } kind && !CoolerPart.Kinds.Contains(kind)
                ? $"machine.coolerKind: “{kind}” is none of {string.Join(", ", CoolerPart.Kinds)}."
            : Machine.Setting is { } setting && !DiagnosisTables.Settings.Contains(setting)
                ? $"machine.setting: “{setting}” is none of {string.Join(", ", DiagnosisTables.Settings)}."
            : Machine.LastDone is { } done && !DiagnosisTables.LastDone.Contains(done)
                ? $"machine.lastDone: “{done}” is none of {string.Join(", ", DiagnosisTables.LastDone)}."
            : Machine.Cured?.FirstOrDefault(id => DiagnosisTables.Causes.All(cause => cause.Id != id)) is { } unknown
                ? $"machine.cured: “{unknown}” is none of {string.Join(", ", DiagnosisTables.Causes.Select(cause => cause.Id))}."
            : Machine.Series?.Problem is { } series ? $"machine.series: {series}"
            : Machine.AgeMonths is not (null or (>= 0 and <= 600)) ? $"machine.ageMonths: {Machine.AgeMonths} is not between 0 and 600."
            : null;
        if (machine is not null)
        {
            return machine;
        }

        foreach (EvidenceItem item in Evidence)
        {
            if (DiagnosisTables.EvidenceOf(item.Id) is not { } row)
            {
                return $"evidence.{item.Id}: there is no such evidence; known are "
                    + $"{string.Join(", ", DiagnosisTables.Evidence.Select(one => one.Id))}.";
            }

            if (!row.States.Contains(item.State))
            {
                return $"evidence.{item.Id}: “{item.State}” is none of {string.Join(", ", row.States)}.";
            }
        }

        return Evidence.GroupBy(item => item.Id).FirstOrDefault(group => group.Count() > 1) is { } twice
            ? $"evidence.{twice.Key}: it stands there twice."
            : null;
    }
}

/// <summary>A case as a file has it (docs/formats.md).</summary>
/// <param name="Evidence">States by id.</param>
/// <param name="Doubtful">Those of them that whoever made them is not sure of.</param>
public sealed record CaseFile(CaseMachine? Machine, IReadOnlyDictionary<string, string?>? Evidence, IReadOnlyList<string>? Doubtful = null)
{
    /// <summary>
    /// The case; null, with a sentence, when something in it cannot be. Evidence without a state is as if it were not there.
    /// </summary>
    public DiagnosisCase? Read(out string? problem)
    {
        DiagnosisCase found = new(
            Machine ?? new CaseMachine(),
            [
                .. (Evidence ?? new Dictionary<string, string?>())
                    .Where(item => item.Value is not null)
                    .Select(item => new EvidenceItem(item.Key, item.Value!, Doubtful?.Contains(item.Key) == true)),
            ]
        );
        problem = Doubtful?.FirstOrDefault(id => found.Evidence.All(item => item.Id != id)) is { } nowhere
            ? $"doubtful: “{nowhere}” is not among the evidence."
            : found.Problem();
        return problem is null ? found : null;
    }
}

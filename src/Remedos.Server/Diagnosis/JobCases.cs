using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Caching.Memory;
using Remedos.Core;
using Remedos.Core.Diagnosis;
using Remedos.Core.Parts;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Coolers;
using Remedos.Server.Jobs;

namespace Remedos.Server.Diagnosis;

/// <summary>What of a job's evidence was read off, and not answered by hand.</summary>
/// <param name="Usual">The run that it leans on, beside what was expected of it; null without runs.</param>
/// <param name="PartsToNote">What is to be noted so that its runs are held against its own parts, a phrase each.</param>
/// <param name="Cooler">The name of the cooler that was on it in those runs; null while nobody has noted it.</param>
public sealed record JobCase(
    DiagnosisCase Case,
    IReadOnlySet<string> ReadOff,
    TubeCheck? Tubes,
    SeenRun? Usual,
    IReadOnlyList<string> PartsToNote,
    string? Cooler
)
{
    /// <summary>What its runs are held against while they are not held against its own parts, and what would change that.</summary>
    public string? HeldAgainst =>
        Case.Machine.ByKind != true ? null
        : PartsToNote.Count > 0
            ? "Held against the usual machine with a cooler of its kind. "
                + $"Note {string.Join(" and ", PartsToNote)}: then it is held against its own."
        : "Held against the usual machine with a cooler of its kind. "
            + $"Of “{Cooler}” no figures are known: they belong among the workshop’s parts.";
}

/// <summary>Puts together what is known of a job's machine, and remembers answers: the same case has the same one.</summary>
public sealed class JobCases(IMemoryCache answers)
{
    internal const double DaysAMonth = 30.44;

    private static readonly TimeSpan Remembered = TimeSpan.FromMinutes(30);

    public DiagnosisAnswer Answer(DiagnosisCase asked) =>
        answers.GetOrCreate($"diagnosis {Degrees.Unit} {System.Text.Json.JsonSerializer.Serialize(asked, RemedosContext.Json)}", entry =>
        {
            entry.SlidingExpiration = Remembered;
            return Diagnoser.Of(asked);
        })!;

    /// <summary>
    /// The case: what hands and eyes observed, what thermometers on the tubes mean, noted at the intake or carried by the run, and what the
    /// runs of the setup that this round found show
    /// against what is expected of this machine.
    /// </summary>
    /// <param name="job">With its setups and rounds.</param>
    /// <param name="runs">All of the job's, in the order they came.</param>
    /// <param name="asItStands">
    /// Whether it is about the machine after what this round has changed: what was seen before that says nothing any more, and what was
    /// repaired is known to be cured.
    /// </param>
    internal static JobCase Of(
        Job job,
        IEnumerable<Run> runs,
        References references,
        SeriesRecord? series,
        DateOnly today,
        bool asItStands = false
    )
    {
        bool changed = asItStands && JobSetups.Current(job) is { Number: > 1 } current && current.Round == job.Round;
        double? age = (job.BuiltOn ?? job.Warranty.PurchasedOn) is { } built
            ? Math.Clamp((today.DayNumber - built.DayNumber) / DaysAMonth, 0, 600)
            : null;
        Setup diagnosed = changed ? JobSetups.Current(job) : JobSetups.Diagnosed(job);
        Run[] before = [.. JobSetups.RunsOf(diagnosed, runs).Where(run => run.RemovedAt is null)];
        SetupReading reading = SetupEvidence.Of([.. before.Select(run => references.Seen(job, run))]);
        string[] cured =
        [
            .. job
                .Rounds.Where(round => round.RemovedAt is null && round.Number < job.Round)
                .SelectMany(round => round.Note.Causes)
                .Concat(changed ? job.Repair.Causes : [])
                .Distinct(StringComparer.Ordinal),
        ];
        IReadOnlyList<EvidenceItem> observed = changed ? [] : job.Observations;
        string? cooler = JobSetups.Effective(job, diagnosed).Cooler;
        CaseMachine machine = new(
            JobSetups.Effective(job, diagnosed).CoolerKind ?? reading.Usual?.Conditions.CoolerKind,
            age,
            job.Origin is null ? null : job.Origin == Job.Complete,
            job.Setting,
            (changed ? OpenRound.LastDoneOf(job) : null) ?? job.LastDone,
            series,
            HasCard(job, before),
            reading.Usual is null ? null : reading.Usual.Expected?.Reference.ByParts != true,
            cured.Length == 0 ? null : cured
        );
        Dictionary<string, EvidenceItem> found = reading.Items.ToDictionary(item => item.Id, StringComparer.Ordinal);
        TubeCheck? tubes =
            !changed && job is { TubeOneC: { } one, TubeOtherC: { } other }
                ? TubeCheck.Of(
                    one,
                    other,
                    reading.Usual?.Run.Load?.SustainedPowerW ?? job.RatedPowerW,
                    reading.Usual?.Run.AmbientC ?? job.RoomC
                )
                : reading.Tubes;
        if (tubes is not null)
        {
            found["tube-difference"] = new EvidenceItem("tube-difference", tubes.State);
        }

        double? watts = reading.Usual?.Run.Load?.SustainedPowerW;
        EvidenceItem[] told =
        [
            .. observed.Select(item =>
                item is { Id: "tube-difference", State: "even" } && watts is { } drawn && !TubeCheck.HandTells(drawn)
                    ? item with
                    {
                        Doubtful = true,
                    }
                    : item
            ),
        ];
        EvidenceItem[] readOff = [.. found.Values.Where(item => observed.All(seen => seen.Id != item.Id))];
        return new JobCase(
            new DiagnosisCase(machine, [.. told, .. readOff]),
            readOff.Select(item => item.Id).ToHashSet(StringComparer.Ordinal),
            tubes,
            reading.Usual,
            machine.ByKind != true
                ? []
                :
                [
                    .. new[]
                    {
                        cooler is null ? "which cooler is on it" : null,
                        job.RatedPowerW is not null
                        || Machine.Find(references.Parts, PartKind.Processor, job.Parts.Processor) is { Values.Processor: not null }
                            ? null
                        : job.Parts.Processor is null ? "which processor it has"
                        : "what its processor draws for long",
                    }.OfType<string>(),
                ],
            cooler
        );
    }

    /// <summary>Whether there is a graphics card: as noted, or as runs show; null while neither says.</summary>
    internal static bool? HasCard(Job job, IReadOnlyCollection<Run> runs) =>
        job.Parts.Graphics is not null || runs.Any(run => run.Analysis.Graphics is not null) ? true
        : runs.Any(run => run.Analysis.Load is not null) ? false
        : null;
}

using System.Text.Json;
using Remedos.Core.Diagnosis;
using Remedos.Data.Jobs;
using Remedos.Server.Jobs;

namespace Remedos.Server.Demo;

/// <summary>Makes jobs of the demo, as somebody would have noted them.</summary>
internal static class DemoJob
{
    /// <summary>What a machine is made of, and how it came about.</summary>
    internal static void Made(
        Job job,
        DateTimeOffset built,
        string origin,
        string setting,
        string processor,
        string board,
        string memory,
        double heightMm,
        string? graphics,
        string @case,
        string cooler,
        string fans,
        string steeredBy,
        string? radiatorAt = null
    )
    {
        (job.BuiltOn, job.Origin, job.Setting) = (DateOnly.FromDateTime(built.UtcDateTime), origin, setting);
        (job.Parts.Processor, job.Parts.Board, job.Parts.Memory, job.Parts.MemoryHeightMm, job.Parts.Graphics) = (
            processor,
            board,
            memory,
            heightMm,
            graphics
        );
        (job.Parts.Case, job.Parts.Cooler, job.Parts.Fans, job.Parts.FansSteeredBy) = (@case, cooler, fans, steeredBy);
        job.Parts.RadiatorAt = radiatorAt;
    }

    internal static void Seen(Job job, params (string Id, string State)[] observed) =>
        job.Observations = [.. observed.Select(one => new EvidenceItem(one.Id, one.State))];

    internal static Job NewJob(
        (Guid WorkshopId, int Number, DateTimeOffset At) place,
        string owner,
        string? contact,
        string machine,
        string? noticed,
        double? roomC,
        double? limitC,
        double? ratedW,
        string? cooler,
        Action<Job> more
    )
    {
        Job job = new()
        {
            Id = Guid.CreateVersion7(place.At),
            WorkshopId = place.WorkshopId,
            Number = place.Number,
            CreatedAt = place.At,
            ChangedAt = place.At,
            Owner = owner,
            Contact = contact,
            Machine = machine,
            Noticed = noticed,
            RoomC = roomC,
            TemperatureLimitC = limitC,
            RatedPowerW = ratedW,
            CoolerKind = cooler,
        };
        JobSetups.First(job, place.At);
        more(job);
        return job;
    }

    /// <summary>The next setup of a job, like the one that is on it but for some fields.</summary>
    internal static Setup Changed(Job job, string kind, DateTimeOffset mountedAt, params (string Field, object Value)[] difference)
    {
        Setup setup = JobSetups.Add(job, kind, JobSetups.Current(job).Number, mountedAt, mountedAt);
        foreach ((string field, object value) in difference)
        {
            string name = $"setup.{setup.Number}.{field}";
            if (JobFields.Find(name)!.TrySet(job, JsonSerializer.SerializeToElement(value), DateOnly.MaxValue) is { } problem)
            {
                throw new InvalidOperationException($"{name}: {problem}");
            }
        }

        return setup;
    }
}

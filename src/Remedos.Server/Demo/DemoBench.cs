using System.Globalization;
using System.Text;
using Remedos.Core.Logs;
using Remedos.Core.Runs;
using Remedos.Core.Simulation;
using Remedos.Data;
using Remedos.Data.Jobs;
using Remedos.Data.Runs;
using Remedos.Server.Files;
using Remedos.Server.Jobs;
using Remedos.Server.Runs;

namespace Remedos.Server.Demo;

/// <summary>A run of a demo machine.</summary>
/// <param name="Setup">Which of its job's setups.</param>
/// <param name="Mount">Which mount of that.</param>
/// <param name="Load">In the words of a run's conditions.</param>
internal sealed record DemoRun(
    int Setup,
    string FileName,
    SimulationRequest OnBench,
    double RoomC,
    TimeSpan Ago,
    bool Semicolons = false,
    double? FanPercent = null,
    int Mount = 1,
    string Load = "all-core",
    int? Bay = null
)
{
    public double? PowerCapW { get; init; }

    public double? GpuLimitC { get; init; }
}

/// <summary>Where the demo's rows go.</summary>
internal sealed class DemoBench(
    RemedosContext context,
    IFileStore files,
    Workshop workshop,
    Person person,
    DateTimeOffset now,
    CancellationToken cancellation
)
{
    public (Guid WorkshopId, int Number, DateTimeOffset At) Next(double daysAgo) =>
        (workshop.Id, workshop.NextJobNumber++, now.AddDays(-daysAgo));

    /// <summary>A place before the first number that is counted up from.</summary>
    public (Guid WorkshopId, int Number, DateTimeOffset At) Earlier(int number, double daysAgo) =>
        (workshop.Id, number, now.AddDays(-daysAgo));

    public Task AddAsync(Job job, params DemoRun[] runs) => AddAsync(job, _ => [], runs);

    public async Task AddAsync(Job job, Func<Job, Round[]> rounds, params DemoRun[] runs)
    {
        context.Jobs.Add(job);
        context.Rounds.AddRange(rounds(job));
        context.Append(job, person.Id, job.CreatedAt, JobEvents.Created);
        await context.SaveChangesAsync(cancellation);
        foreach (DemoRun run in runs)
        {
            await AddRunAsync(job, run);
        }
    }

    /// <summary>The same log as loggers of other countries write it: semicolons, decimal commas, date and time of day.</summary>
    private static string WithSemicolons(string log, DateTimeOffset startedAt)
    {
        StringBuilder text = new();
        foreach (string line in log.Split('\n', StringSplitOptions.RemoveEmptyEntries))
        {
            string[] cells = line.Split(',');
            text.Append(
                    text.Length == 0
                        ? "Date;Time"
                        : startedAt
                            .AddSeconds(double.Parse(cells[0], CultureInfo.InvariantCulture))
                            .ToString("dd.MM.yyyy;HH:mm:ss,f", CultureInfo.InvariantCulture)
                )
                .Append(';')
                .AppendJoin(';', cells.Skip(1).Select(cell => cell.Replace('.', ',')))
                .Append('\n');
        }

        return text.ToString();
    }

    private async Task AddRunAsync(Job job, DemoRun demo)
    {
        DateTimeOffset at = now - demo.Ago;
        int seed = (job.Number * 10) + (demo.Setup > 1 ? demo.Setup - 1 : 0) + (100 * (demo.Mount - 1)) + (int)demo.Ago.TotalHours;
        string text = SimulatedRun
            .Of(demo.OnBench.Resolve(out string? problem) ?? throw new InvalidOperationException(problem), demo.OnBench, seed)
            .LogCsv();
        text = demo.Semicolons ? WithSemicolons(text, at.AddMinutes(-37)) : text;
        byte[] bytes = Encoding.UTF8.GetBytes(text);
        (string sha256, long length) = await files.SaveAsync(new MemoryStream(bytes), bytes.Length, cancellation);
        Log log = LogReader.Read(new MemoryStream(bytes)).Log!;
        Setup setup = job.Setups.Single(one => one.Number == demo.Setup);
        Mount mount = setup.Mounts.Single(one => one.Number == demo.Mount);
        RunConditions told = new(
            demo.Load,
            "closed",
            demo.FanPercent is null ? "auto" : "fixed",
            demo.FanPercent,
            demo.PowerCapW,
            AmbientC: demo.RoomC
        )
        {
            GpuTemperatureLimitC = demo.GpuLimitC,
        };
        RunConditions conditions = AddLog.StartingConditions(job, setup, mount, told, at);
        LogFile file = new()
        {
            Id = Guid.CreateVersion7(at),
            WorkshopId = workshop.Id,
            Name = demo.FileName,
            Sha256 = sha256,
            Bytes = length,
            Bay = demo.Bay,
            StoredAt = at,
        };
        context.Add(file);
        await RunStore.AddAsync(context, job, file.Id, mount.Id, conditions, [], ReadRun.Of(log, conditions), person.Id, at, cancellation);
    }
}

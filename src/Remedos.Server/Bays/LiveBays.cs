using System.Threading.Channels;
using Microsoft.AspNetCore.SignalR;
using Remedos.Core.Bays;
using Remedos.Core.Logs;
using Remedos.Data;
using Remedos.Data.Bays;

namespace Remedos.Server.Bays;

/// <summary>Pages that look at bays; each hears of its own workshop.</summary>
public sealed class LiveHub(Session.Bench bench) : Hub
{
    public const string Path = "/live";

    public override async Task OnConnectedAsync()
    {
        (Workshop workshop, _) = await bench.WhoAsync(Context.ConnectionAborted);
        await Groups.AddToGroupAsync(Context.ConnectionId, LiveBays.GroupOf(workshop.Id), Context.ConnectionAborted);
        await base.OnConnectedAsync();
    }
}

/// <summary>
/// Tells pages what has changed in the bays, without keeping any sender waiting: what happens within a moment goes out together, so that a page hears some ten times a
/// second of all bays, however many there are.
/// </summary>
internal sealed class LiveBays(IHubContext<LiveHub> hub, TimeProvider clock) : BackgroundService
{
    private static readonly TimeSpan Together = TimeSpan.FromMilliseconds(80);

    /// <summary>What the pictures of a bay show; whoever wants more asks for the readings.</summary>
    private static readonly HashSet<ChannelRole> Shown =
    [
        ChannelRole.CpuTemperature, ChannelRole.CpuControlTemperature, ChannelRole.CoreTemperature, ChannelRole.CpuPower, ChannelRole.CpuClock, ChannelRole.CpuFanSpeed, ChannelRole.PumpSpeed, ChannelRole.CoolantTemperature,
        ChannelRole.TubeOutTemperature, ChannelRole.TubeReturnTemperature, ChannelRole.AmbientTemperature, ChannelRole.SoundLevel, ChannelRole.GpuTemperature,
    ];

    /// <summary>News that nobody fetches are dropped before they fill the memory; a page that misses some asks for them.</summary>
    private readonly Channel<(Guid Workshop, BayAnswer Bay, IReadOnlyList<BayReading> Fresh)> _news =
        System.Threading.Channels.Channel.CreateBounded<(Guid, BayAnswer, IReadOnlyList<BayReading>)>(new BoundedChannelOptions(20_000) { FullMode = BoundedChannelFullMode.DropOldest, SingleReader = true });

    public static string GroupOf(Guid workshop) => $"bays-{workshop}";

    public void Tell(Bay bay, IReadOnlyList<BayReading> fresh) => _news.Writer.TryWrite((bay.WorkshopId, BayAnswer.Of(bay, clock.GetUtcNow()), fresh));

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (await _news.Reader.WaitToReadAsync(stoppingToken))
        {
            await Task.Delay(Together, clock, stoppingToken);
            List<(Guid Workshop, BayAnswer Bay, IReadOnlyList<BayReading> Fresh)> all = [];
            while (_news.Reader.TryRead(out (Guid, BayAnswer, IReadOnlyList<BayReading>) one))
            {
                all.Add(one);
            }

            foreach (var workshop in all.GroupBy(one => one.Workshop))
            {
                // A bay's newest word, and of its last recording all that is new.
                BayNews[] news = [.. workshop.GroupBy(one => one.Bay.Id).Select(bay => new BayNews(
                    bay.Last().Bay,
                    FreshOf([.. bay.Where(one => one.Bay.Stream == bay.Last().Bay.Stream).SelectMany(one => one.Fresh).OrderBy(reading => reading.Sequence)])))];
                await hub.Clients.Group(GroupOf(workshop.Key)).SendAsync("bays", news, stoppingToken);
            }
        }
    }

    private static BayTrace? FreshOf(BayReading[] readings) => readings.Length == 0 ? null : BayTrace.Of(
        [.. readings.Select(reading => reading with { Values = reading.Values.Where(pair => Shown.Contains(pair.Key.Role) && (pair.Key.Index == 0 || !reading.Values.ContainsKey(new(ChannelRole.CpuTemperature)))).ToDictionary() })], 0);
}

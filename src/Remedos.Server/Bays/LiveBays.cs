using System.Collections.Concurrent;
using System.Security.Claims;
using System.Threading.Channels;
using Microsoft.AspNetCore.SignalR;
using Remedos.Core.Bays;
using Remedos.Core.Logs;
using Remedos.Data.Bays;
using Remedos.Server.Hosting;
using Remedos.Server.Session;

namespace Remedos.Server.Bays;

/// <summary>
/// Pages that follow the bays of their own workshop: of every bay how it stands, and of those that a page shows the readings as well.
/// </summary>
internal sealed class LiveHub(LiveBays live) : Hub
{
    public const string Path = "/live";

    private const int MostWatched = 500;

    public override async Task OnConnectedAsync()
    {
        live.Join(Context);
        await base.OnConnectedAsync();
    }

    public override Task OnDisconnectedAsync(Exception? exception)
    {
        live.Leave(Context.ConnectionId);
        return base.OnDisconnectedAsync(exception);
    }

    /// <summary>Which bays the page shows.</summary>
    public void Watch(Guid[] bays) => live.Watch(Context.ConnectionId, [.. bays.Take(MostWatched)]);
}

/// <summary>
/// Tells pages what has changed in the bays, without keeping any sender waiting: what happens within a moment goes out together, so that a
/// page hears some ten times a
/// second of all bays, however many there are. Each page is sent to by itself, one message at a time: one that does not read keeps nobody
/// else waiting, and is told what it
/// has missed as a gap, which it asks for.
/// </summary>
internal sealed class LiveBays(IHubContext<LiveHub> hub, Telemetry telemetry, TimeProvider clock, ILogger<LiveBays> log) : BackgroundService
{
    private static readonly TimeSpan Together = TimeSpan.FromMilliseconds(80);

    /// <summary>What the pictures of a bay show; whoever wants more asks for the readings.</summary>
    private static readonly HashSet<ChannelRole> Shown =
    [
        ChannelRole.CpuTemperature,
        ChannelRole.CpuControlTemperature,
        ChannelRole.CoreTemperature,
        ChannelRole.CpuPower,
        ChannelRole.CpuClock,
        ChannelRole.CpuFanSpeed,
        ChannelRole.PumpSpeed,
        ChannelRole.CoolantTemperature,
        ChannelRole.TubeOutTemperature,
        ChannelRole.TubeReturnTemperature,
        ChannelRole.AmbientTemperature,
        ChannelRole.SoundLevel,
        ChannelRole.GpuTemperature,
    ];

    private readonly ConcurrentDictionary<string, Page> _pages = new(StringComparer.Ordinal);

    /// <summary>News that nobody fetches are dropped before they fill the memory; a page that misses some asks for them.</summary>
    private readonly Channel<BayEvent> _news = System.Threading.Channels.Channel.CreateBounded<BayEvent>(
        new BoundedChannelOptions(20_000) { FullMode = BoundedChannelFullMode.DropOldest, SingleReader = true },
        _ => telemetry.Dropped()
    );

    private sealed record BayEvent(Guid Workshop, BayAnswer Bay, IReadOnlyList<BayReading> Fresh);

    /// <summary>A page that is open.</summary>
    private sealed class Page(Guid workshop, Guid signIn, HubCallerContext connection)
    {
        public Guid Workshop => workshop;

        public Guid SignIn => signIn;

        public void Close() => connection.Abort();

        public HashSet<Guid> Watched { get; set; } = [];

        /// <summary>The message on its way.</summary>
        public Task Sending { get; set; } = Task.CompletedTask;

        /// <summary>How each bay stands whose news could not be sent, until it can.</summary>
        public Dictionary<Guid, BayAnswer> Owed { get; } = [];
    }

    /// <summary>A page of whoever the connection was opened by: it has no request of its own to ask.</summary>
    public void Join(HubCallerContext connection)
    {
        Guid Of(string claim) => Guid.Parse(connection.User!.FindFirstValue(claim)!);
        _pages[connection.ConnectionId] = new Page(Of(SignInTickets.WorkshopClaim), Of(ClaimTypes.NameIdentifier), connection);
    }

    /// <summary>Closes the pages of a sign-in that has ended.</summary>
    public void Drop(Guid signIn)
    {
        foreach (Page page in _pages.Values.Where(page => page.SignIn == signIn))
        {
            page.Close();
        }
    }

    /// <summary>Those that follow.</summary>
    public IReadOnlyCollection<Guid> SignIns => [.. _pages.Values.Select(page => page.SignIn).Distinct()];

    public void Leave(string connection) => _pages.TryRemove(connection, out _);

    public void Watch(string connection, HashSet<Guid> bays)
    {
        if (_pages.TryGetValue(connection, out Page? page))
        {
            page.Watched = bays;
        }
    }

    public void Tell(Bay bay, IReadOnlyList<BayReading> fresh) =>
        _news.Writer.TryWrite(new BayEvent(bay.WorkshopId, BayAnswer.Of(bay, clock.GetUtcNow()), fresh));

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        while (await _news.Reader.WaitToReadAsync(stoppingToken))
        {
            await Task.Delay(Together, clock, stoppingToken);
            List<BayEvent> all = [];
            while (_news.Reader.TryRead(out BayEvent? one))
            {
                all.Add(one);
            }

            try
            {
                foreach (IGrouping<Guid, BayEvent> workshop in all.GroupBy(one => one.Workshop))
                {
                    BayNews[] news = [.. workshop.GroupBy(one => one.Bay.Id).Select(NewsOf)];
                    foreach ((string connection, Page page) in _pages.Where(page => page.Value.Workshop == workshop.Key))
                    {
                        Send(connection, page, news, stoppingToken);
                    }
                }
            }
            catch (Exception failure)
            {
                log.LogWarning(failure, "News of the bays could not be sent");
            }
        }
    }

    private void Send(string connection, Page page, BayNews[] news, CancellationToken stopping)
    {
        if (!page.Sending.IsCompleted)
        {
            // It has not taken the last message yet: how the bays stand is owed to it, and the readings it will ask for.
            foreach (BayNews one in news)
            {
                page.Owed[one.Bay.Id] = one.Bay;
            }

            return;
        }

        HashSet<Guid> watched = page.Watched;
        foreach (BayNews one in news)
        {
            page.Owed.Remove(one.Bay.Id);
        }

        BayNews[] its =
        [
            .. page.Owed.Values.Select(bay => new BayNews(bay, null)),
            .. news.Select(one => watched.Contains(one.Bay.Id) ? one : one with { Fresh = null }),
        ];
        page.Owed.Clear();
        page.Sending = SendAsync(connection, its, stopping);
    }

    private async Task SendAsync(string connection, BayNews[] news, CancellationToken stopping)
    {
        try
        {
            await hub.Clients.Client(connection).SendAsync("bays", news, stopping);
        }
        catch (Exception failure) when (failure is not OutOfMemoryException)
        {
            // A page that has gone is told by its connection.
            log.LogDebug(failure, "A page could not be told");
        }
    }

    /// <summary>A bay's newest word, and of its last recording all that is new.</summary>
    private static BayNews NewsOf(IGrouping<Guid, BayEvent> bay)
    {
        BayAnswer last = bay.Last().Bay;
        return new BayNews(
            last,
            FreshOf([.. bay.Where(one => one.Bay.Stream == last.Stream).SelectMany(one => one.Fresh).OrderBy(reading => reading.Sequence)])
        );
    }

    private static BayTrace? FreshOf(BayReading[] readings) => readings.Length == 0 ? null : BayTrace.Of([.. readings.Select(Slim)], 0);

    /// <summary>A reading as the pictures show it: of the cores' temperatures none where the chip has one.</summary>
    private static BayReading Slim(BayReading reading) =>
        reading with
        {
            Values = reading
                .Values.Where(pair =>
                    Shown.Contains(pair.Key.Role) && (pair.Key.Index == 0 || !reading.Values.ContainsKey(new(ChannelRole.CpuTemperature)))
                )
                .ToDictionary(),
        };
}

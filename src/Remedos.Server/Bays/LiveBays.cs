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
/// Tells pages what has changed in the bays, without keeping any sender waiting: what happens within a moment goes out together, so that a
/// page hears some ten times a
/// second of all bays, however many there are. Each page is sent to by itself, one message at a time: one that does not read keeps nobody
/// else waiting, and is told what it
/// has missed as a gap, which it asks for. What other servers are sent comes by the line between them.
/// </summary>
internal sealed class LiveBays(IHubContext<LiveHub> hub, NewsLine line, Telemetry telemetry, TimeProvider clock, ILogger<LiveBays> log)
    : BackgroundService
{
    private static readonly TimeSpan Together = TimeSpan.FromMilliseconds(80);

    /// <summary>Of one bay, for a page that does not take its messages.</summary>
    private const int MostOwed = 50;

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

    private readonly ConcurrentDictionary<Guid, ToldOfBay> _told = new();

    /// <summary>Something that happened in a bay.</summary>
    /// <param name="Fresh">Readings that came here, yet to be put together.</param>
    /// <param name="Heard">Readings as another server has put them together; null for what came here.</param>
    private sealed record BayEvent(Guid Workshop, BayAnswer Bay, IReadOnlyList<BayReading> Fresh, BayTrace? Heard, bool IsOurs);

    /// <summary>A page that is open.</summary>
    private sealed class Page(Guid workshop, Guid signIn, HubCallerContext connection)
    {
        public Guid Workshop => workshop;

        public Guid SignIn => signIn;

        public void Close() => connection.Abort();

        public HashSet<Guid> Watched { get; set; } = [];

        /// <summary>The message on its way.</summary>
        public Task Sending { get; set; } = Task.CompletedTask;

        /// <summary>News that could not be sent yet, by their bays.</summary>
        public Dictionary<Guid, List<BayNews>> Owed { get; } = [];

        /// <summary>Adds to what is owed; of too much of a bay how it stands remains, and a gap that the page asks for.</summary>
        public void Owe(BayNews one)
        {
            if (!Owed.TryGetValue(one.Bay.Id, out List<BayNews>? its))
            {
                Owed[one.Bay.Id] = its = [];
            }

            if (its is [.., { Fresh: null }])
            {
                its.RemoveAt(its.Count - 1);
            }
            else if (its.Count >= MostOwed)
            {
                its.Clear();
            }

            its.Add(one);
        }
    }

    /// <summary>A page of whoever the connection was opened by: it has no request of its own to ask.</summary>
    public void Join(HubCallerContext connection)
    {
        Guid Of(string claim) => Guid.Parse(connection.User!.FindFirstValue(claim)!);
        _pages[connection.ConnectionId] = new Page(Of(SignInTickets.WorkshopClaim), Of(ClaimTypes.NameIdentifier), connection);
    }

    /// <summary>Closes the pages of a sign-in, but for those that follow a workshop in which it is now.</summary>
    public void Drop(Guid signIn, params IReadOnlyList<Guid> but)
    {
        foreach (Page page in _pages.Values.Where(page => page.SignIn == signIn && !but.Contains(page.Workshop)))
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

    /// <summary>Which workshops have pages open here, and which bays these show.</summary>
    public ILookup<Guid, Guid> Followed =>
        _pages
            .Values.SelectMany(page => page.Watched.Append(Guid.Empty).Select(bay => (page.Workshop, Bay: bay)))
            .Distinct()
            .ToLookup(one => one.Workshop, one => one.Bay);

    /// <summary>How far the pages here have been told of a bay; null for never.</summary>
    public ToldOfBay? ToldOf(Guid bay) => _told.GetValueOrDefault(bay);

    /// <summary>Tells of a bay that has changed here.</summary>
    public void Tell(Bay bay, IReadOnlyList<BayReading> fresh) =>
        Put(new BayEvent(bay.WorkshopId, BayAnswer.Of(bay, clock.GetUtcNow()), fresh, null, IsOurs: true));

    /// <summary>Tells the pages here alone of a bay whose news have not come.</summary>
    public void TellHere(Bay bay, IReadOnlyList<BayReading> fresh) =>
        Put(new BayEvent(bay.WorkshopId, BayAnswer.Of(bay, clock.GetUtcNow()), fresh, null, IsOurs: false));

    private void Put(BayEvent one)
    {
        ToldOfBay now = new(one.Bay.Revision, one.Bay.Stream, one.Bay.Acknowledged);
        _told.AddOrUpdate(one.Bay.Id, now, (_, before) => now.Revision > before.Revision ? now : before);
        _news.Writer.TryWrite(one);
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        line.Heard = news =>
        {
            foreach (BayNews one in news.Bays)
            {
                Put(new BayEvent(news.Workshop, one.Bay, [], one.Fresh, IsOurs: false));
            }
        };
        Task<bool> more = _news.Reader.WaitToReadAsync(stoppingToken).AsTask();
        while (!stoppingToken.IsCancellationRequested)
        {
            // What is owed is tried again also when nothing new happens.
            if (_pages.Values.All(page => page.Owed.Count == 0))
            {
                await more;
            }

            await Task.Delay(Together, clock, stoppingToken);
            List<BayEvent> all = [];
            while (_news.Reader.TryRead(out BayEvent? one))
            {
                all.Add(one);
            }

            if (more.IsCompleted)
            {
                more = _news.Reader.WaitToReadAsync(stoppingToken).AsTask();
            }

            try
            {
                foreach (IGrouping<Guid, BayEvent> workshop in all.GroupBy(one => one.Workshop))
                {
                    if (workshop.Any(one => one.IsOurs))
                    {
                        line.Tell(workshop.Key, Merged(workshop.Where(one => one.IsOurs)));
                    }

                    BayNews[] news = Merged(workshop);

                    foreach (Page page in _pages.Values.Where(page => page.Workshop == workshop.Key))
                    {
                        HashSet<Guid> watched = page.Watched;
                        foreach (BayNews one in news)
                        {
                            page.Owe(watched.Contains(one.Bay.Id) ? one : one with { Fresh = null });
                        }
                    }
                }

                foreach ((string connection, Page page) in _pages)
                {
                    Send(connection, page, stoppingToken);
                }
            }
            catch (Exception failure)
            {
                log.LogWarning(failure, "News of the bays could not be sent");
            }
        }
    }

    /// <summary>Sends what is owed, where the last message has been taken.</summary>
    private void Send(string connection, Page page, CancellationToken stopping)
    {
        if (page.Owed.Count > 0 && page.Sending.IsCompleted)
        {
            BayNews[] its = [.. page.Owed.Values.SelectMany(news => news)];
            page.Owed.Clear();
            page.Sending = SendAsync(connection, its, stopping);
        }
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

    /// <summary>
    /// Of each bay its newest word, with every stretch of its readings that has no gap: of one bay another server may have had others.
    /// </summary>
    private static BayNews[] Merged(IEnumerable<BayEvent> all) =>
        [
            .. all.GroupBy(one => one.Bay.Id)
                .SelectMany(bay =>
                {
                    BayAnswer last = bay.MaxBy(one => one.Bay.Revision)!.Bay;
                    BayEvent[] current = [.. bay.Where(one => one.Bay.Stream == last.Stream)];
                    BayTrace[] fresh =
                    [
                        .. Stretches(current.SelectMany(one => one.Fresh))
                            .Concat(current.Select(one => one.Heard).OfType<BayTrace>())
                            .OrderBy(trace => trace.FromSequence),
                    ];
                    return fresh.Length == 0 ? [new BayNews(last, null)] : fresh.Select(trace => new BayNews(last, trace));
                }),
        ];

    private static IEnumerable<BayTrace> Stretches(IEnumerable<BayReading> readings)
    {
        BayReading[] ordered = [.. readings.OrderBy(reading => reading.Sequence)];
        for (int from = 0, to; from < ordered.Length; from = to)
        {
            for (to = from + 1; to < ordered.Length && ordered[to].Sequence == ordered[to - 1].Sequence + 1; )
            {
                to++;
            }

            yield return BayTrace.Of([.. ordered[from..to].Select(Slim)], 0);
        }
    }

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

/// <summary>How far pages have been told of a bay.</summary>
internal sealed record ToldOfBay(long Revision, string? Stream, long Acknowledged);

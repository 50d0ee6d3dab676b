using System.Text.Json;
using Remedos.Data;
using Remedos.Server.Hosting;
using StackExchange.Redis;

namespace Remedos.Server.Bays;

/// <summary>News of a workshop's bays, on their way from the server that was told to those whose pages want to know.</summary>
/// <param name="From">The server that tells.</param>
internal sealed record NewsOfWorkshop(Guid From, Guid Workshop, IReadOnlyList<BayNews> Bays);

/// <summary>
/// The line between servers: what bays tell one of them reaches the pages of all. It runs over Redis, which keeps nothing; while that is
/// away nothing is queued for it, for each server also looks by itself (<see cref="LookAtBays"/>). A server without one is alone.
/// </summary>
internal sealed class NewsLine(IConfiguration configuration, Telemetry telemetry, ILogger<NewsLine> log) : BackgroundService
{
    private static readonly RedisChannel Channel = RedisChannel.Literal("remedos:bays");

    private readonly Guid _me = Guid.NewGuid();
    private ConnectionMultiplexer? _redis;

    /// <summary>Whether this server is one of several.</summary>
    public bool IsNamed { get; } = OptionsOf(configuration) is not null;

    /// <summary>Whether the others are heard now.</summary>
    public bool IsUp => _redis?.IsConnected == true;

    /// <summary>Called with what others tell, on any thread.</summary>
    public Action<NewsOfWorkshop>? Heard { get; set; }

    /// <summary>How Redis is reached; null where none is named.</summary>
    /// <exception cref="StartupException">What is named is no address.</exception>
    public static ConfigurationOptions? OptionsOf(IConfiguration configuration)
    {
        if (configuration.GetValue<string>("Redis") is not { Length: > 0 } named)
        {
            return null;
        }

        try
        {
            ConfigurationOptions options = ConfigurationOptions.Parse(named);
            return options.EndPoints.Count > 0 ? options : throw new StartupException("Redis names no address.");
        }
        catch (ArgumentException)
        {
            throw new StartupException("Redis is an address such as 127.0.0.1:6379,password=…, and this is none.");
        }
    }

    /// <summary>Tells the others; waits for nobody.</summary>
    public void Tell(Guid workshop, BayNews[] news)
    {
        if (_redis is { IsConnected: true } redis)
        {
            byte[] message = JsonSerializer.SerializeToUtf8Bytes(new NewsOfWorkshop(_me, workshop, news), RemedosContext.Json);
            try
            {
                redis.GetSubscriber().Publish(Channel, message, CommandFlags.FireAndForget);
            }
            catch (RedisException)
            {
                // It has gone this moment.
            }
        }
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        if (OptionsOf(configuration) is not { } options)
        {
            return;
        }

        options.ClientName = "remedos";
        // It may come later, and go and come again.
        options.AbortOnConnectFail = false;
        // Old news help nobody: what cannot be sent now is not.
        options.BacklogPolicy = BacklogPolicy.FailFast;
        _redis = await ConnectionMultiplexer.ConnectAsync(options);
        _redis.ConnectionFailed += (_, _) => log.LogWarning("Redis is away; the other servers’ bays are looked at once a second");
        _redis.ConnectionRestored += (_, _) => log.LogInformation("Redis is back");
        while (!stoppingToken.IsCancellationRequested)
        {
            try
            {
                await _redis.GetSubscriber().SubscribeAsync(Channel, (_, message) => Take(message));
                return;
            }
            catch (RedisException)
            {
                await Task.Delay(TimeSpan.FromSeconds(1), stoppingToken);
            }
        }
    }

    private void Take(RedisValue message)
    {
        try
        {
            NewsOfWorkshop news = JsonSerializer.Deserialize<NewsOfWorkshop>((byte[])message!, RemedosContext.Json)!;
            if (news.From != _me)
            {
                Heard?.Invoke(news);
            }
        }
        catch (JsonException failure)
        {
            // A server of another version may speak otherwise.
            log.LogWarning("What another server told could not be read: {Why}", failure.Message);
            telemetry.Dropped();
        }
    }

    public override async Task StopAsync(CancellationToken cancellationToken)
    {
        await base.StopAsync(cancellationToken);
        if (_redis is not null)
        {
            // Nothing is waiting in it; and asking its servers to take leave fails where they went first.
            await _redis.CloseAsync(allowCommandsToComplete: false);
        }
    }
}

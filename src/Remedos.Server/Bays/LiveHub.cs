using Microsoft.AspNetCore.SignalR;

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

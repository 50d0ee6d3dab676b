using System.Threading.Channels;

namespace Remedos.Server.Runs;

/// <summary>Wakes this server's importer at once after an upload; the queue itself is the imports table, which every server looks at.</summary>
public sealed class ImportBell
{
    private readonly Channel<bool> _rings = Channel.CreateBounded<bool>(new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite });

    public void Ring() => _rings.Writer.TryWrite(true);

    /// <summary>Waits for a ring, at most so long.</summary>
    public async Task WaitAsync(TimeSpan longest, CancellationToken cancellation)
    {
        using CancellationTokenSource limit = CancellationTokenSource.CreateLinkedTokenSource(cancellation);
        limit.CancelAfter(longest);
        try
        {
            await _rings.Reader.ReadAsync(limit.Token);
        }
        catch (OperationCanceledException) when (!cancellation.IsCancellationRequested)
        {
            // Nobody rang: look at the table all the same, another server may have died over its import.
        }
    }
}

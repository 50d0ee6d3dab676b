namespace Remedos.Server.Queue;

/// <summary>Wakes this server's lanes at once; the queue itself is a table that every server looks at.</summary>
public sealed class QueueBell
{
    private TaskCompletionSource _next = New();

    public void Ring() => Interlocked.Exchange(ref _next, New()).TrySetResult();

    /// <summary>What the next ring ends; taken before the table is looked at, so that a ring in between is not missed.</summary>
    public Task Next => _next.Task;

    private static TaskCompletionSource New() => new(TaskCreationOptions.RunContinuationsAsynchronously);
}

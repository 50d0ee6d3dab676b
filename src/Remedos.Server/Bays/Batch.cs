using System.Text;
using Remedos.Core.Bays;

namespace Remedos.Server.Bays;

/// <summary>What a sender sends at once: readings with their lines as they came, and what it tells of itself.</summary>
/// <param name="Problem">Why nothing of it is taken, with the line; null when it can be.</param>
internal sealed record Batch(
    IReadOnlyList<BayReading> Readings,
    IReadOnlyList<string> Lines,
    BayHello? Hello,
    string? Note,
    IReadOnlyList<string> LeftOut,
    string? Problem
)
{
    private const int MostSentences = 5;

    /// <summary>How much it is.</summary>
    public long Letters => Lines.Sum(line => (long)line.Length);

    public static async Task<Batch> ReadAsync(Stream body, CancellationToken cancellation)
    {
        (List<BayReading> readings, List<string> lines, List<string> leftOut) = ([], [], []);
        (BayHello? hello, string? note) = (null, null);
        using StreamReader text = new(body, Encoding.UTF8);
        for (int number = 1; await text.ReadLineAsync(cancellation) is { } line; number++)
        {
            if (string.IsNullOrWhiteSpace(line))
            {
                continue;
            }

            BayLine parsed = BayLine.Parse(line);
            if (parsed.Problem is { } problem)
            {
                return new Batch([], [], null, null, [], $"Line {number}: {problem}");
            }

            hello = parsed.Hello ?? hello;
            note = parsed.Note ?? note;
            if (parsed.Reading is { } reading)
            {
                readings.Add(reading);
                lines.Add(line.Trim());
                leftOut.AddRange(parsed.LeftOut.Take(MostSentences - leftOut.Count));
            }
        }

        return new Batch(readings, lines, hello, note, leftOut, null);
    }
}

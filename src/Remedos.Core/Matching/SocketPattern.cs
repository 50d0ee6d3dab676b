using System.Reflection;
using System.Text.Json;

namespace Remedos.Core.Matching;

/// <summary>The holes round a socket, mm between their centres.</summary>
/// <param name="AcrossMm">Towards memory and rear.</param>
/// <param name="AlongMm">Towards the top and the first slot.</param>
public sealed record SocketPattern(string Id, double AcrossMm, double AlongMm, string Reason)
{
    /// <summary>Every socket that is known.</summary>
    public static IReadOnlyList<SocketPattern> All { get; } = Load();

    /// <summary>A socket with its holes, where they are known: “Q4 (holes 90 × 54 mm)”.</summary>
    public static string Words(string id) =>
        All.FirstOrDefault(one => one.Id == id) is { } pattern ? $"{id} (holes {pattern.AcrossMm:0.#} × {pattern.AlongMm:0.#} mm)" : id;

    private static SocketPattern[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Matching.sockets.json")!;
        SocketPattern[] patterns = JsonSerializer.Deserialize(stream, TableJson.Default.SocketPatternArray)!;
        return
            patterns.FirstOrDefault(one => one is not { AcrossMm: > 20 and < 200, AlongMm: > 20 and < 200, Reason.Length: > 10 })
                is { } wrong
            ? throw new InvalidDataException($"sockets.json: “{wrong.Id}” lacks a reason or holds a length that cannot be.")
            : patterns;
    }
}

using System.Reflection;
using System.Text.Json;

namespace Remedos.Core.Matching;

/// <summary>The holes round a socket, mm between their centres.</summary>
/// <param name="AcrossMm">Towards memory and rear.</param>
/// <param name="AlongMm">Towards the top and the first slot.</param>
/// <param name="SpreaderAcrossMm">The face that paste goes on; and along.</param>
/// <param name="Screws">How many hold a cooler.</param>
/// <param name="Fastening">screws or push-pins.</param>
/// <param name="LoosePlate">Whether a back plate of the cooler's own goes behind the board.</param>
/// <param name="PrintedOrder">Whether its frame prints the order of its screws.</param>
public sealed record SocketPattern(
    string Id,
    double AcrossMm,
    double AlongMm,
    double SpreaderAcrossMm,
    double SpreaderAlongMm,
    int Screws,
    string Fastening,
    string Reason,
    bool LoosePlate = false,
    bool PrintedOrder = false
)
{
    /// <summary>How a cooler is held.</summary>
    public const string ByScrews = "screws",
        ByPins = "push-pins";

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
            patterns.FirstOrDefault(one =>
                one
                    is not {
                        AcrossMm: > 20 and < 200,
                        AlongMm: > 20 and < 200,
                        SpreaderAcrossMm: > 5 and < 150,
                        SpreaderAlongMm: > 5 and < 150,
                        Screws: >= 2 and <= 12,
                        Fastening: ByScrews or ByPins,
                        Reason.Length: > 10
                    }
            )
                is { } wrong
            ? throw new InvalidDataException($"sockets.json: “{wrong.Id}” lacks a reason or holds a length that cannot be.")
            : patterns;
    }
}

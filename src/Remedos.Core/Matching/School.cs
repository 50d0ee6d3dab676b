using System.Reflection;
using System.Text.Json;

namespace Remedos.Core.Matching;

/// <summary>A way to weigh what nobody can have all of. Each weight says how much of the score a thing costs; the least score comes first.</summary>
/// <param name="Heat">Of the rise above the room as a share of what the limit allows.</param>
/// <param name="Noise">A tenth of what is heard above a quiet room of 20 dB(A), a decibel a hundredth.</param>
/// <param name="Price">Of its price as a share of the chip's.</param>
/// <param name="Failures">A part that can fail.</param>
/// <param name="Liquid">Being a liquid cooler; below 0 it is liked.</param>
public sealed record School(string Id, string Title, double Heat, double Noise, double Price, double Failures, double Liquid, string Reason)
{
    public static IReadOnlyList<School> All { get; } = Load();

    public static School Of(string? id) => All.FirstOrDefault(school => school.Id == id) ?? All[0];

    private static School[] Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Matching.schools.json")!;
        School[] schools = JsonSerializer.Deserialize(stream, TableJson.Default.SchoolArray)!;
        return schools.FirstOrDefault(school => school.Reason.Length < 6 || school.Heat < 0 || school.Noise < 0 || school.Price < 0 || school.Failures < 0) is { } wrong ? throw new InvalidDataException($"schools.json: “{wrong.Id}” lacks a reason or holds a number that cannot be.") : schools;
    }
}

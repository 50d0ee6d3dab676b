using System.Reflection;
using System.Text.Json;

namespace Remedos.Core.Diagnosis;

/// <summary>How often simulated machines showed each state of an observation.</summary>
/// <param name="ByParts">Whether they were held against their own parts; otherwise against the usual machine of their kind of
/// cooler.</param>
/// <param name="Leak">Of sound machines.</param>
/// <param name="Effects">Of machines with one cause alone, of any severity.</param>
public sealed record LikelihoodRow(
    string Evidence,
    bool ByParts,
    IReadOnlyList<double> Leak,
    IReadOnlyDictionary<string, IReadOnlyList<double>> Effects
);

/// <summary>The likelihoods of run and trial evidence, made by the simulator through the same reading as any log.</summary>
/// <param name="Command">What made the file.</param>
public sealed record LikelihoodFile(string Command, IReadOnlyList<LikelihoodRow> Rows);

/// <summary>Reads run-likelihoods.json, which no hand writes.</summary>
public static class RunLikelihoods
{
    private static readonly Dictionary<(string Evidence, bool ByParts), LikelihoodRow> Rows = Load();

    /// <summary>What a machine so known shows; null for what the file does not tell.</summary>
    public static LikelihoodRow? Of(string evidence, bool byParts) => Rows.GetValueOrDefault((evidence, byParts));

    private static Dictionary<(string Evidence, bool ByParts), LikelihoodRow> Load()
    {
        using Stream stream = Assembly.GetExecutingAssembly().GetManifestResourceStream("Remedos.Core.Diagnosis.run-likelihoods.json")!;
        LikelihoodFile file = JsonSerializer.Deserialize(stream, TableJson.Default.LikelihoodFile)!;
        foreach (LikelihoodRow row in file.Rows)
        {
            int states = DiagnosisTables.EvidenceOf(row.Evidence)?.Telling.Count ?? 0;
            if (
                row.Effects.Values.Append(row.Leak)
                    .Any(p => p.Count != states || Math.Abs(p.Sum() - 1) > 0.01 || p.Any(one => one is < 0 or > 1))
                || row.Effects.Keys.Any(cause => DiagnosisTables.Causes.All(known => known.Id != cause))
            )
            {
                throw new InvalidDataException(
                    $"run-likelihoods.json: “{row.Evidence}” does not fit the tables; make it anew: {file.Command}"
                );
            }
        }

        return file.Rows.ToDictionary(row => (row.Evidence, row.ByParts));
    }
}

using System.Text.Json;
using System.Text.Json.Serialization;
using Remedos.Core.Comparison;
using Remedos.Core.Diagnosis;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Runs;
using Remedos.Core.Simulation;

namespace Remedos.Cli;

/// <summary>
/// What the command line reads and writes as JSON; generated at build, so that a short command need not wait for reflection.
/// </summary>
[JsonSerializable(typeof(RunAnalysis))]
[JsonSerializable(typeof(ComparisonResult))]
[JsonSerializable(typeof(SeriesFile))]
[JsonSerializable(typeof(SeriesResult))]
[JsonSerializable(typeof(RunConditions))]
[JsonSerializable(typeof(SimulationRequest))]
[JsonSerializable(typeof(SimulationTruth))]
[JsonSerializable(typeof(CaseFile))]
[JsonSerializable(typeof(DiagnosisAnswer))]
[JsonSerializable(typeof(Build))]
[JsonSerializable(typeof(CoolerPart[]))]
[JsonSerializable(typeof(MatchAnswer))]
internal sealed partial class CliJson : JsonSerializerContext
{
    public static readonly CliJson Contract = new(
        new JsonSerializerOptions(JsonSerializerDefaults.Web)
        {
            WriteIndented = true,
            Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
            NumberHandling = JsonNumberHandling.Strict,
            RespectNullableAnnotations = true,
            ReadCommentHandling = JsonCommentHandling.Skip,
            AllowTrailingCommas = true,
        }
    );
}

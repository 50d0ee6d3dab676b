using System.Text.Json;
using System.Text.Json.Serialization;
using Remedos.Core.HeatPath;

namespace Remedos.Core;

/// <summary>How the embedded tables are read; generated at build.</summary>
[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(HealthyPath[]))]
internal sealed partial class TableJson : JsonSerializerContext;

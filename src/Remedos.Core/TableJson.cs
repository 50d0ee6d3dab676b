using System.Text.Json;
using System.Text.Json.Serialization;
using Remedos.Core.Diagnosis;
using Remedos.Core.Handover;
using Remedos.Core.Machines;
using Remedos.Core.Matching;
using Remedos.Core.Options;
using Remedos.Core.Parts;
using Remedos.Core.Physics;
using Remedos.Core.Practice;
using Remedos.Core.Repair;

namespace Remedos.Core;

/// <summary>How the embedded tables are read; generated at build.</summary>
[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(LikelihoodFile))]
[JsonSerializable(typeof(PhysicalConstant[]))]
[JsonSerializable(typeof(DefaultValue[]))]
[JsonSerializable(typeof(TrueProcessor[]))]
[JsonSerializable(typeof(TrueCooler[]))]
[JsonSerializable(typeof(TrueCase[]))]
[JsonSerializable(typeof(TrueCard[]))]
[JsonSerializable(typeof(SteeringRow[]))]
[JsonSerializable(typeof(MachineRow[]))]
[JsonSerializable(typeof(CauseRow[]))]
[JsonSerializable(typeof(EvidenceRow[]))]
[JsonSerializable(typeof(ConflictRow[]))]
[JsonSerializable(typeof(School[]))]
[JsonSerializable(typeof(SocketPattern[]))]
[JsonSerializable(typeof(MeasureRow[]))]
[JsonSerializable(typeof(RecheckRow[]))]
[JsonSerializable(typeof(RepairRow[]))]
[JsonSerializable(typeof(StepRow[]))]
[JsonSerializable(typeof(OptionRow[]))]
[JsonSerializable(typeof(PartKindFields[]))]
[JsonSerializable(typeof(PartValues))]
[JsonSerializable(typeof(PracticeFile))]
internal sealed partial class TableJson : JsonSerializerContext;

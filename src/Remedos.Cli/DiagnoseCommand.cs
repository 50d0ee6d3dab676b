using System.CommandLine;
using System.Text.Json;
using Remedos.Core.Diagnosis;

namespace Remedos.Cli;

/// <summary>`remedos diagnose CASE.json`: what is wrong, how sure, and what to check next.</summary>
internal static class DiagnoseCommand
{
    private const int CausesShown = 6,
        ChecksShown = 5;

    public static Command Build()
    {
        Argument<FileInfo> file = new("case") { Description = "The machine and what was observed, as JSON (docs/formats.md)." };
        Option<bool> json = new("--json") { Description = "Answer in the contract's JSON (docs/formats.md)." };
        Command command = new("diagnose", "Tells causes with their probabilities and reasons, and the checks that would tell most.")
        {
            file,
            json,
        };
        command.SetAction(parsed =>
        {
            FileInfo from = parsed.GetValue(file)!;
            CaseFile read = Input.Json(
                from,
                CliJson.Contract.CaseFile,
                "a case, such as { \"machine\": { \"coolerKind\": \"liquid\" }, \"evidence\": { \"tube-difference\": \"one-hot\" } }"
            );
            DiagnosisCase asked = read.Read(out string? problem) ?? throw new InputException($"{from}: {problem}");
            DiagnosisAnswer answer = Diagnoser.Of(asked);
            Console.WriteLine(parsed.GetValue(json) ? JsonSerializer.Serialize(answer, CliJson.Contract.DiagnosisAnswer) : Text(answer));
            return ExitStatus.Done;
        });
        return command;
    }

    private static string Text(DiagnosisAnswer answer)
    {
        List<string> lines = [];
        foreach (CauseAnswer cause in answer.Causes.Take(CausesShown))
        {
            lines.Add($"{100 * cause.Probability, 4:0} %  {DiagnosisTables.Causes.Single(row => row.Id == cause.Id).Title}");
            lines.AddRange(cause.Reasons.Where(reason => reason.Bits > 0).Take(2).Select(reason => $"          for      {Words(reason)}"));
            lines.AddRange(cause.Reasons.Where(reason => reason.Bits < 0).Take(1).Select(reason => $"          against  {Words(reason)}"));
        }

        lines.Add("");
        lines.Add(answer.NextChecks.Count == 0 ? "No check that is left would tell more." : "Check next:");
        lines.AddRange(
            answer
                .NextChecks.Take(ChecksShown)
                .Select(check =>
                    $"{check.Minutes, 4:0} min  {DiagnosisTables.EvidenceOf(check.Evidence)!.Title} "
                    + $"({check.ExpectedInformationBits:0.00} bit){(check.Reversible ? "" : ", cannot be undone")}"
                )
        );
        lines.AddRange(answer.Notes.Select(note => $"  {note}"));
        lines.AddRange(answer.Warnings.Select(warning => $"  ! {warning.Message}"));
        return string.Join('\n', lines);
    }

    private static string Words(EvidenceWeight reason) =>
        $"{DiagnosisTables.EvidenceOf(reason.Evidence)!.Title}: {reason.State}{(reason.Because is null ? "" : $" – {reason.Because}")}";
}

using System.CommandLine;
using Remedos.Cli;

RootCommand root = new("Remedos on the command line: reads logs of hot machines and compares runs.");
root.Add(AnalyzeCommand.Build());
root.Add(CompareCommand.Build());
root.Add(SeriesCommand.Build());
root.Add(DiagnoseCommand.Build());
root.Add(MatchCommand.Build());
root.Add(SimulateCommand.Build());
root.Add(ProveCommand.Build());

// A program of its own, started by ./remedos itself; here so that --help tells of it.
root.Add(new Command("probe", "Reads this machine and sends what it reads to a bay; see ./remedos probe --help."));

ParseResult parsed = root.Parse(args);
if (parsed.Errors.Count > 0)
{
    Console.Error.WriteLine($"remedos: {parsed.Errors[0].Message} See “remedos --help”.");
    return ExitStatus.BadInput;
}

try
{
    return parsed.Invoke(new InvocationConfiguration { EnableDefaultExceptionHandler = false });
}
catch (InputException problem)
{
    Console.Error.WriteLine($"remedos: {problem.Message}");
    return ExitStatus.BadInput;
}
catch (Exception problem) when (problem is IOException or UnauthorizedAccessException)
{
    Console.Error.WriteLine($"remedos: {problem.Message}");
    return ExitStatus.BadInput;
}
catch (Exception fault)
{
    // A fault of the program; whoever calls it is told in a line all the same, with where it was for whoever mends it.
    string where = fault.StackTrace?.Split('\n')[0].Trim() ?? "an unknown place";
    Console.Error.WriteLine($"remedos: this input cannot be worked with, and the program did not see it coming: {fault.Message} ({where})");
    return ExitStatus.BadInput;
}

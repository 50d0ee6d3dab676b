using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core.Money;
using Remedos.Server.Session;

namespace Remedos.Server.Jobs;

/// <summary>What was built on a machine as a table, a row each time that the cooler was put on.</summary>
internal static class SetupsCsv
{
    private sealed record Row(SetupAnswer Setup, MountAnswer Mount);

    public static async Task<Results<FileContentHttpResult, ProblemHttpResult>> HandleAsync(
        Guid id,
        JobSheets sheets,
        Caller caller,
        CancellationToken cancellation
    )
    {
        string currency = (await caller.WhoAsync(cancellation)).Workshop.Currency;
        CsvColumn<Row>[] columns =
        [
            new("setup", "", row => row.Setup.Number),
            new("name", "", row => row.Setup.Title),
            new("round", "", row => row.Setup.Round),
            new("like setup", "", row => row.Setup.Like),
            new("on the machine now", "yes or no", row => row.Setup.Current),
            new("abandoned because", "", row => row.Setup.FailedWhy),
            new("cooler", "", row => row.Setup.Whole.Cooler),
            new("kind of cooler", "", row => row.Setup.Whole.CoolerKind),
            new("paste", "", row => row.Setup.Whole.Paste),
            new("paste put on", "", row => row.Setup.Whole.PasteMethod),
            new("mounting kit", "", row => row.Setup.Whole.MountingKit),
            new("fans", "", row => row.Setup.Whole.Fans),
            new("fans follow", "", row => row.Setup.Whole.Steering),
            new("case air", "", row => row.Setup.Whole.CaseAir),
            new("firmware settings", "", row => row.Setup.Whole.Settings),
            new("card’s paste and pads", "", row => row.Setup.Whole.CardPaste),
            new("else changed", "", row => row.Setup.Whole.Changed),
            new("price", currency, row => row.Setup.Values["priceMinor"] is long minor ? Currency.Major(minor, currency) : null),
            new("mount", "", row => row.Mount.Number),
            new("mounted", "ISO 8601", row => row.Mount.MountedAt),
            new("print", "", row => row.Mount.Values["print"]),
            new("screws", "", row => row.Mount.Values["torque"]),
            new("minutes", "min", row => row.Mount.Values["minutes"]),
            new("runs", "", row => row.Mount.Runs),
        ];
        return await sheets.FindAsync(id, cancellation) is { } sheet
            ? CsvTable.Of(
                columns,
                sheet.Setups.SelectMany(setup => setup.Mounts.Select(mount => new Row(setup, mount))),
                $"{sheet.Tag} setups.csv"
            )
            : JobEndpoints.NoSuchJob();
    }
}

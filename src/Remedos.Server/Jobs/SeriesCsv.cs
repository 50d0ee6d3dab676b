using Microsoft.AspNetCore.Http.HttpResults;
using Remedos.Core;
using Remedos.Core.Comparison;
using Remedos.Core.Money;
using Remedos.Server.Session;
using Remedos.Server.Writing;

namespace Remedos.Server.Jobs;

/// <summary>Setups of a series under like conditions as a table, each held against the first.</summary>
internal static class SeriesCsv
{
    public static async Task<Results<FileContentHttpResult, ProblemHttpResult>> HandleAsync(
        Guid id,
        JobSheets sheets,
        Caller caller,
        CancellationToken cancellation
    )
    {
        if (await sheets.FindAsync(id, cancellation) is not { } sheet)
        {
            return JobEndpoints.NoSuchJob();
        }

        if (sheet.Series is not { } series)
        {
            return Refusal.Unknown("There is no series on this job yet: it takes three setups that were run alike.");
        }

        string currency = (await caller.WhoAsync(cancellation)).Workshop.Currency;
        string first = series.Setups[0].Name;
        SeriesPair? Against(SeriesRow row) => series.Pairs.FirstOrDefault(pair => pair.A == first && pair.B == row.Name);
        CsvColumn<SeriesRow>[] columns =
        [
            new("rank", "", row => row.Rank),
            new("setup", "", row => row.Name),
            new("cannot be told apart", "same letter", row => row.Group),
            new("at reference power", "°C", row => row.AtReferencePowerC),
            new("half-width", "°C", row => row.HalfWidthC),
            new("reference power", "W", _ => series.ReferencePowerW),
            new("reference speed", "rpm", _ => series.ReferenceRpm),
            new("room", "°C", _ => series.RoomC),
            new("against the first", "°C", row => Against(row)?.ChangeC),
            new("half-width of that", "°C", row => Against(row)?.HalfWidthC),
            new("p by Holm", "", row => Against(row)?.PAdjusted),
            new("verdict", "", row => Against(row) is { } pair ? Kebab.Of(pair.Verdict) : null),
            new("resistance", "°C/W", row => row.ResistanceCPerW),
            new("mounts", "", row => row.Mounts),
            new("runs", "", row => row.Runs),
            new("as it ran", "°C", row => row.TemperatureC),
            new("power", "W", row => row.PowerW),
            new("fan", "rpm", row => row.FanRpm),
            new("clock", "MHz", row => row.ClockMHz),
            new("sound", "dB(A)", row => row.SoundDba),
            new("score", "", row => row.Score),
            new("at its limit", "yes or no", row => row.AtLimit),
            new("price", currency, row => row.PriceMinor is { } minor ? Currency.Major(minor, currency) : null),
        ];
        return CsvTable.Of(columns, series.Setups, $"{sheet.Tag} series.csv");
    }
}

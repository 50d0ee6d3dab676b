using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Content;

namespace Remedos.Server.Tests;

/// <summary>What leaves the workshop: the report as a document and behind a link, quotes and bills.</summary>
public sealed class ReportTests(App app) : IClassFixture<App>
{
    private async Task<PdfDocument> PdfAsync(string path)
    {
        HttpResponseMessage answer = await app.Client.GetAsync(path);
        Assert.Equal((HttpStatusCode.OK, "application/pdf"), (answer.StatusCode, answer.Content.Headers.ContentType?.MediaType));
        return PdfDocument.Open(await answer.Content.ReadAsByteArrayAsync());
    }

    private static string TextOf(PdfDocument document) =>
        string.Join(" ", document.GetPages().SelectMany(page => page.GetWords()).Select(word => word.Text));

    private async Task<string> DustyAsync()
    {
        string job = await app.NewJobAsync() is { } made ? made.Text("id") : "";
        foreach (
            (string field, object value) in new (string, object)[]
            {
                ("owner", "Olga of the слип"),
                ("contact", "Quay 3"),
                ("machine", "Drawing station"),
                ("noticed", "It slows down after ten minutes"),
                ("repairFound", "Felt on the fins"),
                ("repairDone", "Fins cleaned"),
                ("repairParts", "paste, dust filter"),
                ("repairKept", "old filter\nthree screws"),
            }
        )
        {
            Assert.True((await app.SaveAsync(job, field, value)).IsSuccessStatusCode, field);
        }

        return job;
    }

    /// <summary>
    /// The document says what the page says, in the page's order, whatever paper it is on; nothing that is not known is printed.
    /// </summary>
    [Fact]
    public async Task The_report_says_on_paper_what_the_page_says()
    {
        string job = await DustyAsync();
        JsonElement page = (await app.GetAsync($"/api/jobs/{job}")).GetProperty("ownerPage");
        Assert.Equal(
            ["told", "found", "did", "back", "watch"],
            page.GetProperty("sections").EnumerateArray().Select(section => section.Text("id"))
        );
        using PdfDocument pdf = await PdfAsync($"/api/jobs/{job}/report.pdf");
        string text = TextOf(pdf);
        Assert.All(
            page.GetProperty("sections").EnumerateArray().SelectMany(section => section.GetProperty("lines").EnumerateArray()),
            line => Assert.Contains(line.GetString()!, text, StringComparison.Ordinal)
        );
        Assert.Contains("Olga of the слип · Drawing station", text, StringComparison.Ordinal);
        Assert.Contains("Given back to you • old filter • three screws", text, StringComparison.Ordinal);
        Assert.DoesNotContain("What it costs", text, StringComparison.Ordinal);
        Assert.Equal((1, 595.0), (pdf.NumberOfPages, Math.Round(pdf.GetPage(1).Width)));
        Assert.Contains("Nothing was measured.", pdf.Information.Title, StringComparison.Ordinal);

        using PdfDocument letter = await PdfAsync($"/api/jobs/{job}/report.pdf?paper=letter");
        Assert.Equal((612, 792), (letter.GetPage(1).Width, letter.GetPage(1).Height));
        HttpResponseMessage odd = await app.Client.GetAsync($"/api/jobs/{job}/report.pdf?paper=napkin");
        Assert.Equal("paper: “napkin” is none of a4, letter.", (await App.ReadAsync(odd)).Text("detail"));
    }

    [Fact]
    public async Task A_long_report_goes_on_on_a_second_page_and_loses_nothing()
    {
        string job = await DustyAsync();
        string[] words = [.. Enumerable.Range(0, 500).Select(i => $"word{i}")];
        await app.SaveAsync(job, "repairDone", string.Join(" ", words), "Fins cleaned");
        using PdfDocument pdf = await PdfAsync($"/api/jobs/{job}/report.pdf");
        Assert.Equal(2, pdf.NumberOfPages);
        Assert.All(words, word => Assert.Contains(word, TextOf(pdf), StringComparison.Ordinal));
        Page last = pdf.GetPage(2);
        Assert.All(last.GetWords(), word => Assert.InRange(word.BoundingBox.Left, 40, last.Width - 40));
    }

    [Fact]
    public async Task A_link_shows_one_report_until_it_is_withdrawn_or_runs_out()
    {
        string job = await DustyAsync();
        JsonElement made = await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{job}/links?days=7", null));
        JsonElement link = Assert.Single(made.GetProperty("links").EnumerateArray());
        string path = link.Text("path");
        Assert.True(path.Length > 30);

        using HttpClient stranger = new(app.Handler()) { BaseAddress = new Uri("http://127.0.0.1") };
        HttpResponseMessage page = await stranger.GetAsync(path);
        string html = await page.Content.ReadAsStringAsync();
        Assert.Equal((HttpStatusCode.OK, "no-store"), (page.StatusCode, page.Headers.CacheControl?.ToString()));
        Assert.Contains("Nothing was measured.", html, StringComparison.Ordinal);
        Assert.DoesNotContain("Olga", html, StringComparison.Ordinal);
        using (PdfDocument pdf = PdfDocument.Open(await stranger.GetByteArrayAsync($"{path}/report.pdf")))
        {
            Assert.Contains("Fins cleaned.", TextOf(pdf), StringComparison.Ordinal);
        }

        // What was handed out stays as it was.
        await app.SaveAsync(job, "repairDone", "Something else", "Fins cleaned");
        using (PdfDocument pdf = PdfDocument.Open(await stranger.GetByteArrayAsync($"{path}/report.pdf")))
        {
            Assert.DoesNotContain("Something else", TextOf(pdf), StringComparison.Ordinal);
        }

        await stranger.GetAsync(path);
        JsonElement told = (await app.GetAsync($"/api/jobs/{job}/links")).GetProperty("links")[0];
        Assert.Equal((2, JsonValueKind.Null), (told.GetProperty("openings").GetInt32(), told.GetProperty("path").ValueKind));

        Assert.Equal(HttpStatusCode.NotFound, (await stranger.GetAsync($"/r/{new string('A', 32)}")).StatusCode);
        Assert.Equal(HttpStatusCode.NotFound, (await stranger.GetAsync($"{path}x")).StatusCode);
        Assert.True((await app.Client.DeleteAsync($"/api/jobs/{job}/links/{link.Text("id")}")).IsSuccessStatusCode);
        HttpResponseMessage gone = await stranger.GetAsync(path);
        Assert.Equal(HttpStatusCode.NotFound, gone.StatusCode);
        Assert.Contains("no longer works", await gone.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await stranger.GetAsync($"{path}/report.pdf")).StatusCode);

        string brief = (await App.ReadAsync(await app.Client.PostAsync($"/api/jobs/{job}/links?days=1", null)))
            .GetProperty("links")
            .EnumerateArray()
            .Select(one => one.GetProperty("path").GetString())
            .Single(one => one is not null)!;
        Assert.Equal(HttpStatusCode.OK, (await stranger.GetAsync(brief)).StatusCode);
        await using (RemedosContext context = await app.ContextAsync())
        {
            await context
                .ReportLinks.IgnoreQueryFilters()
                .ExecuteUpdateAsync(set => set.SetProperty(one => one.ExpiresAt, DateTimeOffset.UtcNow.AddMinutes(-1)));
        }

        Assert.Equal(HttpStatusCode.NotFound, (await stranger.GetAsync(brief)).StatusCode);
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await app.Client.PostAsync($"/api/jobs/{job}/links?days=4000", null)).StatusCode);
    }

    private async Task<(HttpStatusCode Status, JsonElement Body)> MakeAsync(string job, string kind, params object[] lines)
    {
        HttpResponseMessage answer = await app.Client.PostAsJsonAsync($"/api/jobs/{job}/papers", new { kind, lines });
        return (answer.StatusCode, await App.ReadAsync(answer));
    }

    /// <summary>Numbers without a gap, sums that add up as printed, a yes that is kept, and nothing changed once it went out.</summary>
    [Fact]
    public async Task A_quote_and_a_bill_are_numbered_and_add_up()
    {
        string job = await DustyAsync();
        object paste = new
            {
                what = "Paste",
                quantity = 1,
                unit = (string?)null,
                unitMinor = 433,
            },
            labour = new
            {
                what = "Labour",
                quantity = 37,
                unit = "min",
                unitMinor = 4800,
            };
        (_, JsonElement first) = await MakeAsync(job, "quote", paste, labour);
        JsonElement quote = first.GetProperty("papers")[0],
            said = quote.GetProperty("statement");
        // 4.33 + 37 min of 48.00 an hour = 29.60; 19 % of 33.93 is 6.4467.
        double tax = (await app.GetAsync("/api/settings")).GetProperty("taxPercent").GetDouble();
        Assert.Equal(3393, said.GetProperty("netMinor").GetInt64());
        Assert.Equal((long)Math.Round(3393 * (decimal)tax / 100, MidpointRounding.AwayFromZero), said.GetProperty("taxMinor").GetInt64());
        Assert.Equal(
            said.GetProperty("totalMinor").GetInt64(),
            said.GetProperty("netMinor").GetInt64() + said.GetProperty("taxMinor").GetInt64()
        );
        (_, JsonElement second) = await MakeAsync(job, "quote", paste);
        (_, JsonElement third) = await MakeAsync(job, "bill", paste);
        int Number(JsonElement list) =>
            int.Parse(list.GetProperty("papers")[0].Text("name")[^4..], System.Globalization.CultureInfo.InvariantCulture);
        Assert.Equal(Number(first) + 1, Number(second));
        string bill = third.GetProperty("papers")[0].Text("name");
        Assert.StartsWith("Bill B-", bill, StringComparison.Ordinal);
        // The owner's page tells the price that is paid.
        Assert.Contains(
            (await app.GetAsync($"/api/jobs/{job}")).GetProperty("ownerPage").GetProperty("sections").EnumerateArray(),
            section =>
                section.Text("id") == "price" && section.GetProperty("lines")[0].GetString()!.StartsWith(bill, StringComparison.Ordinal)
        );

        string id = quote.Text("id");
        HttpResponseMessage yes = await app.Client.PutAsJsonAsync($"/api/jobs/{job}/papers/{id}/yes", new { by = "telephone" });
        Assert.True(yes.IsSuccessStatusCode);
        using (PdfDocument pdf = await PdfAsync($"/api/jobs/{job}/papers/{id}/paper.pdf"))
        {
            string text = TextOf(pdf);
            Assert.Contains("Labour 37 min 48.00 an hour 29.60", text, StringComparison.Ordinal);
            Assert.Contains("Without tax 33.93", text, StringComparison.Ordinal);
            Assert.Contains("Agreed by telephone on", text, StringComparison.Ordinal);
            Assert.Contains("Quay 3", text, StringComparison.Ordinal);
        }

        await app.Client.DeleteAsync($"/api/jobs/{job}/papers/{id}?why=typed%20twice");
        HttpResponseMessage late = await app.Client.PutAsJsonAsync($"/api/jobs/{job}/papers/{id}/yes", new { by = "mail" });
        Assert.Contains("was taken back", (await App.ReadAsync(late)).Text("detail"), StringComparison.Ordinal);
        (_, JsonElement fourth) = await MakeAsync(job, "quote", paste);
        Assert.Equal(Number(second) + 1, Number(fourth));
    }

    [Fact]
    public async Task What_cannot_be_billed_is_told_and_takes_no_number()
    {
        string job = await DustyAsync();
        foreach (
            (object line, string says) in new (object, string)[]
            {
                (
                    new
                    {
                        what = " ",
                        quantity = 1,
                        unit = (string?)null,
                        unitMinor = 100,
                    },
                    "Line 1 says in 1 to 300 letters"
                ),
                (
                    new
                    {
                        what = "x",
                        quantity = 0,
                        unit = (string?)null,
                        unitMinor = 100,
                    },
                    "how many is more than 0"
                ),
                (
                    new
                    {
                        what = "x",
                        quantity = 1,
                        unit = "days",
                        unitMinor = 100,
                    },
                    "neither pieces nor minutes"
                ),
                (
                    new
                    {
                        what = "x",
                        quantity = 1,
                        unit = (string?)null,
                        unitMinor = -100,
                    },
                    "less than nothing"
                ),
            }
        )
        {
            (HttpStatusCode status, JsonElement body) = await MakeAsync(job, "bill", line);
            Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
            Assert.Contains(says, body.Text("detail"), StringComparison.Ordinal);
        }

        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await MakeAsync(job, "receipt")).Status);
        JsonElement list = await app.GetAsync($"/api/jobs/{job}/papers");
        Assert.Empty(list.GetProperty("papers").EnumerateArray());
        // What was used stands there at no price yet.
        Assert.Equal(["paste", "dust filter"], list.GetProperty("proposed").EnumerateArray().Select(line => line.Text("what")));
    }

    /// <summary>A recheck is proposed, goes into a calendar as one appointment, and is told while the machine has not come back.</summary>
    [Fact]
    public async Task A_recheck_is_proposed_put_in_a_calendar_and_listed_when_it_is_due()
    {
        string job = await DustyAsync();
        await app.SaveAsync(job, "setting", "pets-or-smoke");
        JsonElement proposed = Assert.Single((await app.GetAsync($"/api/jobs/{job}/recheck")).EnumerateArray());
        DateOnly today = DateOnly.FromDateTime(DateTime.UtcNow);
        Assert.Equal(today.AddDays(120), DateOnly.Parse(proposed.Text("on"), System.Globalization.CultureInfo.InvariantCulture));

        HttpResponseMessage none = await app.Client.GetAsync($"/api/jobs/{job}/recheck.ics");
        Assert.Equal("No recheck date is set: set one first.", (await App.ReadAsync(none)).Text("detail"));
        DateOnly on = today.AddDays(5);
        await app.SaveAsync(job, "recheckOn", on.ToString("yyyy-MM-dd", null));
        await app.SaveAsync(job, "serial", "DUE-1");
        string calendar = await app.Client.GetStringAsync($"/api/jobs/{job}/recheck.ics");
        Assert.Contains($"DTSTART;VALUE=DATE:{on:yyyyMMdd}", calendar, StringComparison.Ordinal);
        Assert.Contains("SUMMARY:Recheck of Drawing station at", calendar, StringComparison.Ordinal);
        Assert.Contains($"UID:{job}@remedos", calendar, StringComparison.Ordinal);

        async Task<JsonElement[]> DueAsync() =>
            [.. (await app.GetAsync("/api/jobs/due")).EnumerateArray().Where(one => one.Text("id") == job)];
        Assert.Empty(await DueAsync());
        await app.SaveAsync(job, "handedOverAt", DateTimeOffset.UtcNow);
        Assert.Equal(5, Assert.Single(await DueAsync()).GetProperty("days").GetInt32());
        // It came back: nobody calls its owner any more.
        string again = await app.NewJobAsync() is { } made ? made.Text("id") : "";
        await app.SaveAsync(again, "serial", "DUE-1");
        Assert.Empty(await DueAsync());
    }

    /// <summary>A maker is told what it is, how it came, and shown the proof; what nobody noted is said to be not noted.</summary>
    [Fact]
    public async Task A_claim_tells_the_maker_how_the_machine_came()
    {
        string job = await DustyAsync();
        await app.SaveAsync(job, "serial", "KS-77");
        using (PdfDocument bare = await PdfAsync($"/api/jobs/{job}/claim.pdf"))
        {
            string said = TextOf(bare);
            Assert.Contains("Bought on not noted", said, StringComparison.Ordinal);
            Assert.Contains("Nothing was measured yet.", said, StringComparison.Ordinal);
            Assert.Contains("Proof of purchase not kept", said, StringComparison.Ordinal);
            Assert.Equal(1, bare.NumberOfPages);
        }

        await app.AddLogAsync(job, "before", "02-paste-before.csv", App.Example("02-paste-before.csv"));
        await app.SheetWhenAsync(job, sheet => sheet.GetProperty("runs").GetArrayLength() == 1);
        using ByteArrayContent picture = new(IntakeTests.Png);
        await app.Client.PostAsync($"/api/jobs/{job}/photos?kind=proof&fileName=bill.png", picture);
        await app.SaveAsync(job, "purchasedOn", "2026-01-10");
        await app.SaveAsync(job, "warrantyMonths", 240);
        using PdfDocument pdf = await PdfAsync($"/api/jobs/{job}/claim.pdf?paper=letter");
        string text = TextOf(pdf);
        JsonElement told = await app.GetAsync($"/api/jobs/{job}");
        Assert.Contains("Serial number KS-77", text, StringComparison.Ordinal);
        Assert.Contains("240 months, until 10 January 2046", text, StringComparison.Ordinal);
        // What is still to be done here is nothing for a maker.
        Assert.DoesNotContain("take a picture", text, StringComparison.Ordinal);
        Assert.Contains(told.GetProperty("runs")[0].Text("finding"), text, StringComparison.Ordinal);
        Assert.Contains("It slows down after ten minutes", text, StringComparison.Ordinal);
        Assert.Equal(2, pdf.NumberOfPages);
        Assert.Single(pdf.GetPage(2).GetImages());
    }

    /// <summary>The table of runs reads back to the digits that the sheet shows, with its units, and holds no formula.</summary>
    [Fact]
    public async Task Runs_are_a_table_with_units()
    {
        string job = await DustyAsync();
        await app.AddLogAsync(job, "before", "02-paste-before.csv", App.Example("02-paste-before.csv"));
        await app.SheetWhenAsync(job, sheet => sheet.GetProperty("runs").GetArrayLength() == 1);
        string csv = await app.Client.GetStringAsync($"/api/jobs/{job}/runs.csv");
        string[][] rows = [.. csv.TrimEnd().Split("\r\n").Select(line => line.Split(','))];
        Assert.Equal(3, rows.Length);
        Assert.All(rows, row => Assert.Equal(rows[0].Length, row.Length));
        int at = Array.IndexOf(rows[0], "sustained");
        double shown = (await app.GetAsync($"/api/jobs/{job}"))
            .GetProperty("runs")[0]
            .GetProperty("analysis")
            .GetProperty("load")
            .GetProperty("sustainedTemperatureC")
            .GetDouble();
        Assert.Equal("°C", rows[1][at]);
        Assert.Equal(shown, double.Parse(rows[2][at], System.Globalization.CultureInfo.InvariantCulture));
        Assert.Equal("", rows[2][Array.IndexOf(rows[0], "power cap")]);
    }

    [Fact]
    public async Task Setups_and_series_are_tables_with_units_and_amounts_in_the_currency_itself()
    {
        string job = (await app.NewJobAsync()).Text("id");
        Assert.Equal(HttpStatusCode.NotFound, (await app.Client.GetAsync($"/api/jobs/{job}/series.csv")).StatusCode);
        await app.AddSetupAsync(job, "other-paste", new { paste = "=Chalk, 2", priceMinor = 4950 });
        string[] rows = (await app.Client.GetStringAsync($"/api/jobs/{job}/setups.csv")).TrimEnd().Split("\r\n");
        Assert.Equal(4, rows.Length);
        Assert.EndsWith(",mount,mounted,print,screws,minutes,runs", rows[0], StringComparison.Ordinal);
        Assert.Contains(",EUR,", rows[1], StringComparison.Ordinal);
        // A name that a spreadsheet would take for a formula is text.
        Assert.Contains(",\"'=Chalk, 2\",", rows[3], StringComparison.Ordinal);
        Assert.Contains(",49.5,1,", rows[3], StringComparison.Ordinal);
    }
}

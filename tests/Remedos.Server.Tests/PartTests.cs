using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;

namespace Remedos.Server.Tests;

/// <summary>The workshop's library: changed by hand, by files, and never by halves.</summary>
public sealed class PartTests(App app) : IClassFixture<App>
{
    private async Task<JsonElement> AddFanAsync(string name, string size = "120") =>
        await App.ReadAsync(
            await app.Client.PostAsJsonAsync(
                "/api/parts/typed",
                new
                {
                    kind = "fan",
                    name,
                    cells = new Dictionary<string, string> { ["sizeMm"] = size, ["maxRpm"] = "1500" },
                    version = (uint?)null,
                }
            )
        );

    private Task<HttpResponseMessage> ChangeAsync(JsonElement part, string rpm, string? name = null) =>
        app.Client.PutAsJsonAsync(
            $"/api/parts/{part.Text("id")}",
            new
            {
                kind = "fan",
                name = name ?? part.Text("name"),
                cells = new Dictionary<string, string> { ["sizeMm"] = "120", ["maxRpm"] = rpm },
                version = part.GetProperty("version").GetUInt32(),
            }
        );

    private async Task<JsonElement> ImportAsync(string text, bool apply) =>
        await App.ReadAsync(
            await app.Client.PostAsync(
                $"/api/parts/file?apply={(apply ? "true" : "false")}",
                new StringContent(text, Encoding.UTF8, "text/plain")
            )
        );

    private async Task<JsonElement?> FindAsync(string name) =>
        (await app.GetAsync("/api/parts"))
            .EnumerateArray()
            .Where(part => part.Text("name") == name)
            .Select(part => (JsonElement?)part)
            .SingleOrDefault();

    [Fact]
    public async Task A_part_is_added_changed_retired_and_brought_back()
    {
        JsonElement fan = await AddFanAsync("Eddy Test");
        Assert.Equal("1500", fan.GetProperty("cells").Text("maxRpm"));
        JsonElement changed = await App.ReadAsync(await ChangeAsync(fan, "1700"));
        Assert.Equal("1700", changed.GetProperty("cells").Text("maxRpm"));

        HttpResponseMessage stale = await ChangeAsync(fan, "1800");
        Assert.Equal(HttpStatusCode.Conflict, stale.StatusCode);
        Assert.Equal("1700", (await App.ReadAsync(stale)).GetProperty("theirs").GetProperty("cells").Text("maxRpm"));

        await AddFanAsync("Eddy Other");
        Assert.Contains(
            "“Eddy Other” is among the parts already.",
            (await App.ReadAsync(await ChangeAsync(changed, "1700", "Eddy Other"))).Text("detail"),
            StringComparison.Ordinal
        );
        HttpResponseMessage wrong = await ChangeAsync(changed, "fast");
        Assert.Equal(
            (HttpStatusCode.UnprocessableEntity, "maxRpm: “fast” is no number."),
            (wrong.StatusCode, (await App.ReadAsync(wrong)).Text("detail"))
        );

        string id = fan.Text("id");
        Assert.NotEqual(
            JsonValueKind.Null,
            (await App.ReadAsync(await app.Client.PutAsync($"/api/parts/{id}/retired?retired=true", null)))
                .GetProperty("retiredAt")
                .ValueKind
        );
        Assert.Equal(
            JsonValueKind.Null,
            (await App.ReadAsync(await app.Client.PutAsync($"/api/parts/{id}/retired?retired=false", null)))
                .GetProperty("retiredAt")
                .ValueKind
        );
        await using RemedosContext context = await app.ContextAsync();
        Assert.Equal(
            ["added", "changed", "retired", "brought-back"],
            await context
                .PartEvents.Where(change => change.PartId == Guid.Parse(id))
                .OrderBy(change => change.Id)
                .Select(change => change.Kind)
                .ToListAsync()
        );
    }

    [Fact]
    public async Task A_file_is_shown_before_it_is_taken_and_taken_whole_or_not_at_all()
    {
        await AddFanAsync("Gust Known");
        const string good = "part,name,sizeMm,maxRpm,noiseAtMaxDba\nfan,Gust Known,120,1600,\nfan,Gust Fresh,140,1100,\"26.5\"\n";
        JsonElement preview = await ImportAsync(good, false);
        Assert.Equal(
            (false, 1, 1, 0),
            (
                preview.GetProperty("applied").GetBoolean(),
                preview.GetProperty("new").GetInt32(),
                preview.GetProperty("changed").GetInt32(),
                preview.GetProperty("wrong").GetInt32()
            )
        );
        Assert.Equal("maxRpm: 1500 → 1600", preview.GetProperty("lines")[0].GetProperty("sentences")[0].GetString());
        Assert.Null(await FindAsync("Gust Fresh"));

        JsonElement half = await ImportAsync(good + "fan,Gust Broken,wide,1500,\nfan,Gust Fresh,140,900,\n", true);
        Assert.Equal((false, 2), (half.GetProperty("applied").GetBoolean(), half.GetProperty("wrong").GetInt32()));
        JsonElement broken = half.GetProperty("lines")[2];
        Assert.Equal(
            (4, "sizeMm: “wide” is no number."),
            (broken.GetProperty("line").GetInt32(), broken.GetProperty("sentences")[0].GetString())
        );
        JsonElement twice = half.GetProperty("lines")[3].GetProperty("sentences")[0];
        Assert.Equal("name: “Gust Fresh” stands in the file twice.", twice.GetString());
        Assert.Null(await FindAsync("Gust Fresh"));
        Assert.Equal("1500", (await FindAsync("Gust Known"))!.Value.GetProperty("cells").Text("maxRpm"));

        // A column that the file does not have is left alone; an empty cell says that it is not known.
        JsonElement prices = await ImportAsync("part,name,priceMinor\nfan,Gust Known,1900\n", true);
        Assert.Equal(
            "priceMinor: nothing → 1900",
            Assert.Single(prices.GetProperty("lines")[0].GetProperty("sentences").EnumerateArray()).GetString()
        );
        JsonElement unknown = await ImportAsync("part,name,priceMinor\nfan,Gust Known,\n", true);
        Assert.Equal(
            "priceMinor: 1900 → nothing",
            Assert.Single(unknown.GetProperty("lines")[0].GetProperty("sentences").EnumerateArray()).GetString()
        );

        Assert.True((await ImportAsync(good, true)).GetProperty("applied").GetBoolean());
        Assert.Equal("26.5", (await FindAsync("Gust Fresh"))!.Value.GetProperty("cells").Text("noiseAtMaxDba"));
        Assert.Equal(2, (await ImportAsync(good, true)).GetProperty("same").GetInt32());
        // As a spreadsheet with commas for points writes it.
        JsonElement semicolons = await ImportAsync("part;name;sizeMm;maxRpm;noiseAtMaxDba\nfan;Gust Fresh;140;1100;27,5\n", true);
        Assert.Equal("noiseAtMaxDba: 26.5 → 27.5", semicolons.GetProperty("lines")[0].GetProperty("sentences")[0].GetString());
    }

    [Theory]
    [InlineData("csv")]
    [InlineData("json")]
    public async Task What_goes_out_comes_in_again_unchanged(string format)
    {
        await AddFanAsync($"Lull, \"{format}\"");
        await app.Client.PostAsJsonAsync(
            "/api/parts",
            new
            {
                kind = "board",
                name = $"Quoin {format}",
                values = new
                {
                    board = new
                    {
                        socket = "Q4",
                        memoryFromSocketMm = 50,
                        headers = new[]
                        {
                            new
                            {
                                name = "CPU",
                                maxCurrentA = 1.0,
                                steeredBy = "cpu",
                            },
                        },
                    },
                },
            }
        );
        string text = await app.Client.GetStringAsync($"/api/parts/file?format={format}");
        Assert.Contains("CPU:1:cpu", text, StringComparison.Ordinal);
        JsonElement again = await ImportAsync(text, true);
        Assert.Equal(
            (0, 0, 0),
            (again.GetProperty("new").GetInt32(), again.GetProperty("changed").GetInt32(), again.GetProperty("wrong").GetInt32())
        );
        Assert.True(again.GetProperty("same").GetInt32() >= 2);
    }

    [Theory]
    [InlineData("", "The file is empty.")]
    [InlineData("name,sizeMm\nx,120\n", "Line 1 names the columns; part and name are among them.")]
    [InlineData("part,name,colour\nfan,x,red\n", "Line 1, column 3: “colour” is no field of any part.")]
    [InlineData("[{\"part\":", "It is no JSON: line 1, column 10 cannot be read.")]
    [InlineData("{\"fans\":[]}", "Expected a list of parts, each with part, name and values.")]
    public async Task Files_that_are_none_get_a_sentence(string text, string sentence) =>
        Assert.Equal(sentence, (await ImportAsync(text, true)).Text("detail"));

    [Fact]
    public async Task Lines_that_cannot_be_are_told_one_by_one()
    {
        JsonElement answer = await ImportAsync(
            "part,name,sizeMm,maxRpm\nengine,x,1,1\nfan,,120,1500\nfan,Too many,120,1500,7\nmemory,Named only,,\n",
            false
        );
        Assert.Equal(["wrong", "wrong", "wrong", "new"], answer.GetProperty("lines").EnumerateArray().Select(line => line.Text("change")));
        Assert.StartsWith(
            "It has 5 cells and the header 4",
            answer.GetProperty("lines")[2].GetProperty("sentences")[0].GetString(),
            StringComparison.Ordinal
        );
    }
}

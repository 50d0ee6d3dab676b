using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.RegularExpressions;
using Remedos.Server.Tests.Api;

namespace Remedos.Server.Tests;

/// <summary>A workshop that reads °F is told in °F by every address, and keeps °C.</summary>
public sealed partial class DegreesTests(HostingTests.Demo app) : IClassFixture<HostingTests.Demo>
{
    /// <summary>Its tags are kept, and follow a moment later.</summary>
    private const string List = "listJobs";

    /// <summary>What is read off the firmware's page stays as that page has it.</summary>
    private const string Repair = "getRepair";

    [GeneratedRegex(@"\d\s?°C(?!/W)")]
    private static partial Regex InCelsius { get; }

    private async Task TellInAsync(string unit, string before)
    {
        HttpResponseMessage saved = await app.Client.PatchAsJsonAsync(
            "/api/settings/temperatureUnit",
            new { value = unit, @base = before }
        );
        Assert.Equal((HttpStatusCode.OK, unit), (saved.StatusCode, (await App.ReadAsync(saved)).Text("temperatureUnit")));
    }

    [Fact]
    public async Task Every_address_tells_in_the_degrees_of_its_workshop()
    {
        string[] jobs = [.. (await app.GetAsync("/api/jobs")).EnumerateArray().Select(job => job.Text("id"))];
        string first = jobs[0];
        using HttpResponseMessage known = await app.Client.GetAsync($"/api/jobs/{first}");
        Dictionary<string, JsonElement> numbers = [];
        foreach (string job in jobs)
        {
            numbers[job] = await app.GetAsync($"/api/jobs/{job}");
        }

        await TellInAsync("fahrenheit", "celsius");
        try
        {
            // A page that has the old answer is not told that nothing changed, and learns of the other degrees.
            using HttpRequestMessage again = new(HttpMethod.Get, $"/api/jobs/{first}");
            again.Headers.TryAddWithoutValidation("If-None-Match", known.Headers.ETag!.ToString());
            using HttpResponseMessage changed = await app.Client.SendAsync(again);
            Assert.Equal((HttpStatusCode.OK, "fahrenheit"), (changed.StatusCode, changed.Headers.GetValues("Remedos-Degrees").Single()));

            ApiDescription api = new(await app.GetAsync("/openapi/v1.json"));
            List<string> found = [];
            int told = 0;
            foreach (ApiOperation operation in api.Operations.Where(one => one.Method == "GET" && one.Id is not (List or Repair)))
            {
                string[] names = [.. operation.Parameters.Where(one => one.In == "path").Select(one => one.Name)];
                bool ofJob = operation.Path.StartsWith("/api/jobs/{id}", StringComparison.Ordinal) && names is ["id"];
                foreach (
                    string path in ofJob ? jobs.Select(job => operation.Path.Replace("{id}", job, StringComparison.Ordinal))
                    : names is [] ? [operation.Path]
                    : []
                )
                {
                    using HttpResponseMessage answer = await app.Client.GetAsync(path);
                    if (!answer.IsSuccessStatusCode || answer.Content.Headers.ContentType?.MediaType != "application/json")
                    {
                        continue;
                    }

                    JsonElement all = await App.ReadAsync(answer);
                    told += Texts(all).Count(text => text.Contains("°F", StringComparison.Ordinal));
                    found.AddRange(Texts(all).Where(text => InCelsius.IsMatch(text)).Select(text => $"{operation.Id}: {text}"));
                }
            }

            Assert.True(found.Count == 0, string.Join("\n", found.Distinct()));
            Assert.True(told > 200, $"{told} sentences had °F in them.");
            // Tags of the list are kept; they follow.
            await TagsAsync(texts => !texts.Any(text => InCelsius.IsMatch(text)));

            // Numbers are °C whatever is told.
            foreach ((string job, JsonElement before) in numbers)
            {
                JsonElement now = await app.GetAsync($"/api/jobs/{job}");
                Assert.Equal(Numbers(before), Numbers(now));
            }
        }
        finally
        {
            await TellInAsync("celsius", "fahrenheit");
        }

        await TagsAsync(texts => texts.Any(text => InCelsius.IsMatch(text)));
    }

    /// <summary>The list's texts, once they are so.</summary>
    private async Task TagsAsync(Func<IReadOnlyList<string>, bool> are)
    {
        for (int tries = 0; ; tries++)
        {
            string[] texts = [.. Texts(await app.GetAsync("/api/jobs"))];
            if (are(texts))
            {
                return;
            }

            Assert.True(tries < 100, string.Join("\n", texts.Where(text => text.Contains('°', StringComparison.Ordinal))));
            await Task.Delay(100);
        }
    }

    [Fact]
    public async Task What_is_no_unit_is_refused_in_a_sentence()
    {
        HttpResponseMessage answer = await app.Client.PatchAsJsonAsync(
            "/api/settings/temperatureUnit",
            new { value = "kelvin", @base = "celsius" }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, answer.StatusCode);
        Assert.Equal(
            "Temperatures are read in one of celsius, fahrenheit.",
            (await answer.Content.ReadFromJsonAsync<JsonElement>()).Text("detail")
        );
    }

    private static IEnumerable<string> Texts(JsonElement json) =>
        json.ValueKind switch
        {
            JsonValueKind.String => [json.GetString()!],
            JsonValueKind.Array => json.EnumerateArray().SelectMany(Texts),
            JsonValueKind.Object => json.EnumerateObject().SelectMany(one => Texts(one.Value)),
            _ => [],
        };

    /// <summary>The temperatures of an answer, wherever they stand in it.</summary>
    private static IEnumerable<(string, double)> Numbers(JsonElement json) =>
        json.ValueKind switch
        {
            JsonValueKind.Array => json.EnumerateArray().SelectMany(Numbers),
            JsonValueKind.Object => json.EnumerateObject()
                .SelectMany(one =>
                    one.Value.ValueKind == JsonValueKind.Number && one.Name.EndsWith('C')
                        ? [(one.Name, one.Value.GetDouble())]
                        : Numbers(one.Value)
                ),
            _ => [],
        };
}

using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Remedos.Server.Tests.Api;

/// <summary>
/// Every operation of the API under requests that no page would send: nothing ends the server, nothing is refused without a sentence, and
/// what is taken wedges nothing.
/// </summary>
public sealed class FuzzTests(App app) : IClassFixture<App>
{
    private const int Requests = 6000,
        Seed = 20_261_127,
        LongestSentence = 600;

    private static readonly string[] OddTexts =
    [
        "",
        " ",
        "\0",
        "a\0b",
        "\ud83d",
        "x\udc00",
        "=1+1",
        "../../etc/passwd",
        "%00",
        "\u202e",
        "😀😀",
        "NaN",
        "null",
        "' OR 1=1 --",
        "<b>",
    ];

    private static readonly string[] OddNumbers =
    [
        "-1",
        "0",
        "1e308",
        "-1e308",
        "1e400",
        "99999999999999999999",
        "0.1",
        "1e-320",
        "2147483648",
        "-9223372036854775809",
    ];

    [Fact]
    public async Task Nothing_ends_the_server_and_every_refusal_says_why()
    {
        ApiDescription api = new(await app.GetAsync("/openapi/v1.json"));
        // It would shut the door behind itself.
        ApiOperation[] operations = [.. api.Operations.Where(one => one.Id != "signOut")];
        Known known = await Known.PrepareAsync(app);
        Random random = new(Seed);
        List<string> wrong = [];
        for (int i = 0; i < Requests; i++)
        {
            ApiOperation operation = operations[i % operations.Length];
            using HttpRequestMessage request = Request(api, operation, known, random);
            string told =
                $"{request.Method} {request.RequestUri} {(request.Content is null ? "" : await request.Content.ReadAsStringAsync())}";
            using HttpResponseMessage answer = await app.Client.SendAsync(request);
            string body = await answer.Content.ReadAsStringAsync();
            int status = (int)answer.StatusCode;
            if (status >= 500 || (status >= 400 && !IsSentence(answer, body)))
            {
                wrong.Add($"{status} {told[..Math.Min(told.Length, 300)]} → {body[..Math.Min(body.Length, 300)]}");
            }
        }

        Assert.True(wrong.Count == 0, $"{wrong.Count} of {Requests}:\n{string.Join('\n', wrong.Take(25))}");
        // What was taken broke no page.
        foreach (
            string page in new[]
            {
                "/api/jobs",
                "/api/parts",
                "/api/bays",
                "/api/settings",
                "/api/session",
                $"/api/jobs/{known.Job}",
                $"/api/jobs/{known.Job}/diagnosis",
                $"/api/jobs/{known.Job}/history",
                "/api/parts/file",
                "/api/parts/file?format=json",
            }
        )
        {
            Assert.True((await app.Client.GetAsync(page)).IsSuccessStatusCode, page);
        }

        Assert.InRange((int)(await app.Client.GetAsync($"/api/jobs/{known.Job}/coolers")).StatusCode, 200, 499);
    }

    private static bool IsSentence(HttpResponseMessage answer, string body)
    {
        if (
            answer.Content.Headers.ContentType?.MediaType is not "application/problem+json"
            || !JsonDocument.Parse(body).RootElement.TryGetProperty("detail", out JsonElement detail)
        )
        {
            return false;
        }

        string sentence = detail.GetString() ?? "";
        return sentence.Length is > 8 and < LongestSentence
            && sentence.TrimEnd()[^1] is '.' or '?' or '!'
            && !sentence.Contains("   at ", StringComparison.Ordinal)
            && !sentence.Contains("Exception", StringComparison.Ordinal);
    }

    private static HttpRequestMessage Request(ApiDescription api, ApiOperation operation, Known known, Random random)
    {
        string path = operation.Path;
        List<string> query = [];
        foreach ((string name, string where, JsonElement schema) in operation.Parameters)
        {
            string value = random.Next(4) == 0 ? Odd(random) : known.ValueOf(operation.Path, name, api.Of(schema), random);
            if (where == "path")
            {
                // Neither an empty step nor a NUL in a path reaches the application: the listener refuses them.
                string step = Whole(value).Replace("\0", "", StringComparison.Ordinal);
                path = path.Replace($"{{{name}}}", Uri.EscapeDataString(step.Trim().Length == 0 ? "x" : step), StringComparison.Ordinal);
            }
            else if (random.Next(6) > 0)
            {
                query.Add($"{name}={Uri.EscapeDataString(Whole(value))}");
            }
        }

        HttpRequestMessage request = new(new HttpMethod(operation.Method), query.Count == 0 ? path : $"{path}?{string.Join('&', query)}");
        if (operation.Body is { } schemaOfBody && random.Next(30) > 0)
        {
            string json = random.Next(25) == 0 ? "{ \"a\": " : Escaped(Json(api, api.Of(schemaOfBody), random, 0));
            request.Content = new ByteArrayContent(Encoding.UTF8.GetBytes(json));
            request.Content.Headers.ContentType = MediaTypeHeaderValue.Parse(
                random.Next(40) switch
                {
                    0 => "application/json; charset=latin1",
                    1 => "text/plain",
                    2 => "application/x-www-form-urlencoded",
                    _ => "application/json",
                }
            );
        }
        else if (operation.Changes)
        {
            request.Content = new StringContent(
                Odd(random),
                Encoding.UTF8,
                random.Next(4) == 0 ? "application/octet-stream" : "text/plain"
            );
        }

        return request;
    }

    private static string Odd(Random random) =>
        random.Next(3) switch
        {
            0 => OddNumbers[random.Next(OddNumbers.Length)],
            1 => string.Concat(Enumerable.Repeat("ab ", random.Next(3000))),
            _ => OddTexts[random.Next(OddTexts.Length)],
        };

    /// <summary>An address cannot hold half a letter; JSON can, escaped.</summary>
    private static string Whole(string text) => new([.. text.Where(letter => !char.IsSurrogate(letter))]);

    private static string Escaped(string json)
    {
        StringBuilder text = new();
        foreach (char letter in json)
        {
            text.Append(char.IsSurrogate(letter) ? $"\\u{(int)letter:x4}" : letter.ToString());
        }

        return text.ToString();
    }

    /// <summary>JSON of a schema, and here and there something else.</summary>
    private static string Json(ApiDescription api, JsonElement schema, Random random, int depth)
    {
        if (depth > 6 || random.Next(14) == 0)
        {
            return random.Next(8) switch
            {
                0 => "null",
                1 => "[null]",
                2 => "{}",
                3 => "true",
                4 => OddNumbers[random.Next(OddNumbers.Length)],
                5 => "[[[]]]",
                _ => JsonText(Odd(random)),
            };
        }

        string type = schema.TryGetProperty("type", out JsonElement named)
            ? named.ValueKind == JsonValueKind.Array
                ? named[0].GetString()!
                : named.GetString()!
            : "any";
        switch (type)
        {
            case "object" when schema.TryGetProperty("properties", out JsonElement properties):
                IEnumerable<string> fields = properties
                    .EnumerateObject()
                    .Where(_ => random.Next(12) > 0)
                    .Select(property => $"{JsonText(property.Name)}:{Json(api, api.Of(property.Value), random, depth + 1)}");
                return $"{{{string.Join(',', fields)}}}";
            case "object":
                return $"{{\"{random.Next(5)}\":{JsonText(Odd(random))}}}";
            case "array":
                JsonElement items = schema.TryGetProperty("items", out JsonElement of) ? api.Of(of) : schema;
                return $"[{string.Join(',', Enumerable.Range(0, random.Next(3)).Select(_ => Json(api, items, random, depth + 1)))}]";
            case "integer" or "number":
                return random.Next(3) == 0
                    ? OddNumbers[random.Next(OddNumbers.Length)]
                    : random.Next(-5, 200).ToString(System.Globalization.CultureInfo.InvariantCulture);
            case "boolean":
                return random.Next(2) == 0 ? "true" : "false";
            case "string" when schema.TryGetProperty("enum", out JsonElement choices) && random.Next(3) > 0:
                return choices[random.Next(choices.GetArrayLength())].GetRawText();
            case "string":
                return JsonText(random.Next(2) == 0 ? "cooler" : Odd(random));
            default:
                return JsonText(Odd(random));
        }
    }

    /// <summary>A text in JSON, its halves of letters kept.</summary>
    private static string JsonText(string text)
    {
        StringBuilder json = new("\"");
        foreach (char letter in text)
        {
            json.Append(
                letter is '"' or '\\' ? $"\\{letter}"
                : letter < ' ' || char.IsSurrogate(letter) ? $"\\u{(int)letter:x4}"
                : letter.ToString()
            );
        }

        return json.Append('"').ToString();
    }

    /// <summary>Ids that are there, so that requests reach past the first refusal.</summary>
    private sealed record Known(string Job, string OtherJob, string Run, string Bay, string Part, string Photo, long Event, string Mount)
    {
        public static async Task<Known> PrepareAsync(App app)
        {
            (string job, string other) = ((await app.NewJobAsync()).Text("id"), (await app.NewJobAsync()).Text("id"));
            await app.SaveAsync(job, "owner", "Somebody");
            await app.AddLogAsync(job, "before", "a.csv", App.Example("02-paste-before.csv"));
            JsonElement sheet = await app.SheetWhenAsync(job, s => s.Count("runs") == 1);
            using ByteArrayContent picture = new(IntakeTests.Png);
            JsonElement withPhoto = await App.ReadAsync(
                await app.Client.PostAsync($"/api/jobs/{job}/photos?kind=photo&fileName=a.png", picture)
            );
            JsonElement bay = await App.ReadAsync(await app.Client.PostAsync("/api/bays", null));
            JsonObject typed = new()
            {
                ["kind"] = "memory",
                ["name"] = "Dowel Fuzz",
                ["cells"] = new JsonObject { ["heightMm"] = "31" },
            };
            JsonElement part = await App.ReadAsync(
                await app.Client.PostAsync("/api/parts/typed", new StringContent(typed.ToJsonString(), Encoding.UTF8, "application/json"))
            );
            return new Known(
                job,
                other,
                sheet.GetProperty("runs")[0].Text("id"),
                bay.Text("id"),
                part.Text("id"),
                withPhoto.GetProperty("photos")[0].Text("id"),
                withPhoto.GetProperty("lastChange").GetProperty("eventId").GetInt64(),
                sheet.GetProperty("setups")[0].GetProperty("mounts")[0].Text("id")
            );
        }

        public string ValueOf(string path, string name, JsonElement schema, Random random) =>
            name switch
            {
                "id" => path.Contains("/runs", StringComparison.Ordinal) ? Run
                : path.Contains("/bays", StringComparison.Ordinal) ? Bay
                : path.Contains("/parts", StringComparison.Ordinal) ? Part
                : Job,
                "earlier" => OtherJob,
                "photo" => Photo,
                "eventId" => (Event - random.Next(3)).ToString(System.Globalization.CultureInfo.InvariantCulture),
                "field" => path.Contains("/settings", StringComparison.Ordinal)
                    ? "taxPercent"
                    : new[]
                    {
                        "owner",
                        "roomC",
                        "airPlan",
                        "repairCauses",
                        "mount.1.1.mountedAt",
                        "setup.1.priceMinor",
                        "builtOn",
                        "evidence.dust",
                        "coolerKind",
                        "warrantyMonths",
                    }[random.Next(10)],
                "mount" or "mountId" => Mount,
                "kind" => "photo",
                "fileName" => "a.csv",
                "stream" => "s",
                "column" or "number" => random.Next(4).ToString(System.Globalization.CultureInfo.InvariantCulture),
                _ => schema.TryGetProperty("type", out JsonElement type) && type.ToString().Contains("boolean", StringComparison.Ordinal)
                    ? "true"
                : random.Next(3) == 0 ? "1"
                : "tower",
            };
    }
}

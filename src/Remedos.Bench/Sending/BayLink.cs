using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using Remedos.Core;
using Remedos.Core.Bays;

namespace Remedos.Bench.Sending;

/// <summary>What the server answers to readings (docs/formats.md, “The bay protocol”).</summary>
internal sealed record IngestAnswer(
    long Acknowledged,
    BenchOrder Order,
    double? LimitC,
    BenchHands? Hands,
    string Stage,
    string Says,
    IReadOnlyList<string>? LeftOut
)
{
    public bool IsRunning => Kebab.Parse<GuidedStage>(Stage) is GuidedStage.Idle or GuidedStage.Load or GuidedStage.CoolDown;
}

/// <summary>
/// The server's word on a batch: an answer, a refusal that sending again will not mend, a reason to wait and send again, or nothing at all.
/// </summary>
internal sealed record Word(IngestAnswer? Answer, string? Refusal = null, string? Wait = null);

/// <summary>A bay's end of the protocol.</summary>
internal sealed class BayLink(HttpClient http, int number, string token)
{
    /// <summary>Sends lines; no answer and no refusal when they did not arrive, so that they are sent again.</summary>
    public async Task<Word> SendAsync(string stream, string lines, CancellationToken cancellation)
    {
        try
        {
            using HttpRequestMessage request = new(HttpMethod.Post, $"/api/bays/{number}/readings?stream={Uri.EscapeDataString(stream)}")
            {
                Content = new StringContent(lines, Encoding.UTF8, "application/x-ndjson"),
            };
            request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", token);
            using HttpResponseMessage answer = await http.SendAsync(request, cancellation);
            string text = await answer.Content.ReadAsStringAsync(cancellation);
            return answer.IsSuccessStatusCode ? new Word(JsonSerializer.Deserialize(text, WireJson.Default.IngestAnswer))
                : answer.StatusCode is HttpStatusCode.Unauthorized or HttpStatusCode.UnprocessableEntity or HttpStatusCode.NotFound
                    ? new Word(null, Sentence(text) ?? $"The server refused ({(int)answer.StatusCode}).")
                : new Word(null, Wait: Sentence(text));
        }
        catch (Exception failure)
            when (failure is HttpRequestException or JsonException or IOException or TaskCanceledException
                && !cancellation.IsCancellationRequested
            )
        {
            return new Word(null);
        }
    }

    private static string? Sentence(string problem)
    {
        try
        {
            return JsonSerializer.Deserialize(problem, WireJson.Default.Refusal)?.Detail;
        }
        catch (JsonException)
        {
            return null;
        }
    }
}

internal sealed record Refusal(string? Detail);

/// <summary>As the rig asks for bays.</summary>
internal sealed record OfferedBay(Guid Id, int Number, BayHello? Sender, OfferedRun? Run = null);

/// <summary>A run that goes on or went on in a bay.</summary>
internal sealed record OfferedRun(Guid JobId);

/// <summary>A machine in the workshop.</summary>
internal sealed record OfferedJob(Guid Id, string Tag);

/// <summary>A run to be started.</summary>
internal sealed record OpeningRun(Guid JobId, string Variant, double? LoadSeconds, int Times);

internal sealed record OfferedToken(string Token);

internal sealed record OfferedSession(string Token, OfferedMe? Me, List<OfferedTouch> Touch);

/// <summary>Who is signed in.</summary>
internal sealed record OfferedMe(Guid Id);

/// <summary>Whom a touch signs in.</summary>
internal sealed record OfferedTouch(Guid Id, string Role);

/// <summary>A touch.</summary>
internal sealed record RigTouch(Guid Person);

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(IngestAnswer))]
[JsonSerializable(typeof(Refusal))]
[JsonSerializable(typeof(OfferedSession))]
[JsonSerializable(typeof(RigTouch))]
[JsonSerializable(typeof(OfferedToken))]
[JsonSerializable(typeof(List<OfferedJob>))]
[JsonSerializable(typeof(OpeningRun))]
[JsonSerializable(typeof(List<OfferedBay>))]
[JsonSerializable(typeof(BayHello))]
internal sealed partial class WireJson : JsonSerializerContext;

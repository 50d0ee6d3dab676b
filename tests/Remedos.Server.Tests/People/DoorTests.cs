using System.Net;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.Routing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Remedos.Data.People;
using Remedos.Server.Tests.Api;

namespace Remedos.Server.Tests.People;

/// <summary>Every address of the API, asked by those who may not.</summary>
public sealed class DoorTests(App app) : IClassFixture<App>
{
    /// <summary>What is asked without a sign-in: the ways in, and what shows a token of its own.</summary>
    private static readonly HashSet<string> Open =
    [
        "getSession",
        "signIn",
        "challengePasskey",
        "signInByPasskey",
        "signInByTouch",
        "lookAtInvitation",
        "join",
        "sendReadings",
    ];

    /// <summary>What a reader may ask by other than GET: own affairs, and what is only reckoned.</summary>
    private static readonly HashSet<string> ReadersMay =
    [
        "signOut",
        "takeOverByPin",
        "proveAgain",
        "changeWorkshop",
        "beginPractice",
        "joinWithAccount",
        "setPassword",
        "setOwnPin",
        "beginCodeApp",
        "finishCodeApp",
        "dropCodeApp",
        "renewRecoveryCodes",
        "endSignIn",
        "endOtherSignIns",
        "beginPasskey",
        "addPasskey",
        "removePasskey",
        "lookAtAir",
        "compareAir",
        "steerAir",
    ];

    private static readonly HashSet<string> ForLeads =
    [
        "listPeople",
        "addPerson",
        "changePerson",
        "setPin",
        "invite",
        "endSignInsOf",
        "getAudit",
        "getAuditCsv",
        "dropCodeAppOf",
        "findOwners",
        "getOwnersData",
        "eraseOwner",
        "saveSetting",
        "getArchive",
        "restoreArchive",
        "getBackups",
        "makeBackup",
        "setLogo",
        "removeLogo",
    ];

    private async Task<ApiOperation[]> OperationsAsync() => [.. new ApiDescription(await app.GetAsync("/openapi/v1.json")).Operations];

    private static HttpRequestMessage Asking(ApiOperation operation)
    {
        string path = operation.Path;
        foreach ((string name, _, JsonElement schema) in operation.Parameters.Where(parameter => parameter.In == "path"))
        {
            string value =
                schema.TryGetProperty("format", out JsonElement format) && format.GetString() == "uuid" ? Guid.NewGuid().ToString() : "1";
            path = path.Replace($"{{{name}}}", value, StringComparison.Ordinal);
        }

        HttpRequestMessage request = new(new HttpMethod(operation.Method), path);
        if (operation.Body is not null || operation.Id == "importParts")
        {
            request.Content = new StringContent("{}", Encoding.UTF8, operation.Body is null ? "text/plain" : "application/json");
        }

        return request;
    }

    [Fact]
    public async Task Signed_out_nothing_is_told_but_the_ways_in()
    {
        ApiOperation[] operations = await OperationsAsync();
        Assert.True(operations.Length > 100);
        using HttpClient nobody = app.Bare();
        foreach (ApiOperation operation in operations.Where(one => !Open.Contains(one.Id)))
        {
            using HttpResponseMessage answer = await nobody.SendAsync(Asking(operation));
            Assert.True(answer.StatusCode == HttpStatusCode.Unauthorized, $"{operation.Method} {operation.Path}: {(int)answer.StatusCode}");
            Assert.Equal("signed-out", (await App.ReadAsync(answer)).Text("type"));
        }

        foreach (string path in new[] { "/live/negotiate", "/openapi/v1.json", "/api/jobs/1/code.svg" })
        {
            using HttpResponseMessage answer = await nobody.GetAsync(path);
            Assert.Contains(
                answer.StatusCode,
                new[] { HttpStatusCode.Unauthorized, HttpStatusCode.NotFound, HttpStatusCode.MethodNotAllowed }
            );
        }
    }

    /// <summary>Also what is left out of the description asks who it is.</summary>
    [Fact]
    public void Every_endpoint_under_api_wants_a_sign_in_or_says_that_it_does_not()
    {
        string[] open =
        [
            .. app
                .Services.GetRequiredService<EndpointDataSource>()
                .Endpoints.OfType<RouteEndpoint>()
                .Where(one => one.RoutePattern.RawText!.StartsWith("/api", StringComparison.Ordinal))
                .Where(one =>
                    one.Metadata.GetMetadata<Microsoft.AspNetCore.Authorization.IAllowAnonymous>() is not null
                    || one.Metadata.GetMetadata<Microsoft.AspNetCore.Authorization.IAuthorizeData>() is null
                )
                .Select(one => one.RoutePattern.RawText!)
                .Order(StringComparer.Ordinal),
        ];
        Assert.Equal(
            [
                "/api/bays/{number:int}/readings",
                "/api/join/",
                "/api/join/look",
                "/api/session",
                "/api/sign-in/",
                "/api/sign-in/passkey",
                "/api/sign-in/passkey/challenge",
                "/api/sign-in/touch",
                "/api/{**rest}",
            ],
            open
        );
    }

    [Fact]
    public async Task A_reader_changes_nothing_and_a_technician_nothing_of_the_leads()
    {
        Guid workshop = (await app.GetAsync("/api/session")).GetProperty("me").GetProperty("workshopId").GetGuid();
        using HttpClient reader = await app.PersonAsync(workshop, Role.Reader);
        using HttpClient technician = await app.PersonAsync(workshop, Role.Technician);
        ApiOperation[] operations = await OperationsAsync();
        foreach (ApiOperation operation in operations.Where(one => !Open.Contains(one.Id) && one.Id != "signOut"))
        {
            bool lead = ForLeads.Contains(operation.Id);
            using HttpResponseMessage read = await reader.SendAsync(Asking(operation));
            bool refused = lead || (operation.Changes && !ReadersMay.Contains(operation.Id));
            Assert.True(
                (read.StatusCode == HttpStatusCode.Forbidden) == refused,
                $"reader, {operation.Method} {operation.Path}: {(int)read.StatusCode}"
            );
            if (lead)
            {
                using HttpResponseMessage worked = await technician.SendAsync(Asking(operation));
                Assert.True(worked.StatusCode == HttpStatusCode.Forbidden, $"technician, {operation.Method} {operation.Path}");
            }
        }
    }

    [Fact]
    public async Task A_stale_or_foreign_token_changes_nothing()
    {
        ApiOperation[] operations = await OperationsAsync();
        using HttpClient other = await app.OtherWorkshopAsync();
        string foreign = other.DefaultRequestHeaders.GetValues("X-Remedos-Token").Single();
        foreach (string? token in new[] { null, "made up", foreign })
        {
            using HttpClient page = app.Bare();
            page.DefaultRequestHeaders.Add("Cookie", app.Client.DefaultRequestHeaders.GetValues("Cookie").Single());
            if (token is not null)
            {
                page.DefaultRequestHeaders.Add("X-Remedos-Token", token);
            }

            foreach (ApiOperation operation in operations.Where(one => one.Changes && one.Id != "sendReadings").Where(NotLimited))
            {
                using HttpResponseMessage answer = await page.SendAsync(Asking(operation));
                Assert.True(
                    answer.StatusCode == HttpStatusCode.BadRequest,
                    $"{operation.Method} {operation.Path}: {(int)answer.StatusCode}"
                );
            }
        }

        static bool NotLimited(ApiOperation one) =>
            !one.Path.StartsWith("/api/sign-in", StringComparison.Ordinal) && !one.Path.StartsWith("/api/join", StringComparison.Ordinal);
    }
}

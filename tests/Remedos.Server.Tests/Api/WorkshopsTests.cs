using System.Net;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Metadata;
using Remedos.Data;
using Remedos.Data.People;
using Remedos.Data.Runs;

namespace Remedos.Server.Tests.Api;

/// <summary>Two workshops in one database: neither sees, changes or counts anything of the other's.</summary>
public sealed class WorkshopsTests(App app) : IClassFixture<App>
{
    /// <summary>Every address of the API with the ids of another workshop's rows.</summary>
    [Fact]
    public async Task Every_address_asked_with_anothers_ids_knows_nothing_of_them()
    {
        string job = (await app.NewJobAsync()).Text("id"),
            earlier = (await app.NewJobAsync()).Text("id");
        await app.SaveAsync(job, "owner", "Ours");
        await app.AddLogAsync(job, "before", "a.csv", App.Example("02-paste-before.csv"));
        await app.AddLogAsync(job, "before", "b.csv", App.Example("one-column.csv"));
        JsonElement sheet = await app.SheetWhenAsync(job, s =>
            s.Count("runs") == 1 && s.GetProperty("imports").EnumerateArray().Any(i => i.Text("state") == "failed")
        );
        using ByteArrayContent picture = new(IntakeTests.Png);
        JsonElement withPhoto = await App.ReadAsync(
            await app.Client.PostAsync($"/api/jobs/{job}/photos?kind=photo&fileName=a.png", picture)
        );
        JsonElement bay = await App.ReadAsync(await app.Client.PostAsync("/api/bays", null));
        JsonElement part = await App.ReadAsync(
            await app.Client.PostAsync("/api/parts/typed", Json("""{"kind":"memory","name":"Dowel Ours","cells":{}}"""))
        );
        string me = (await app.GetAsync("/api/session")).GetProperty("me").Text("id");
        string before = (await app.GetAsync($"/api/jobs/{job}")).ToString();

        using HttpClient other = await app.OtherWorkshopAsync();
        ApiDescription api = new(await app.GetAsync("/openapi/v1.json"));
        int asked = 0;
        foreach (
            ApiOperation operation in api.Operations.Where(one => one.Parameters.Any(parameter => parameter is { In: "path", Name: "id" }))
        )
        {
            string path = operation.Path;
            foreach ((string name, _, _) in operation.Parameters.Where(parameter => parameter.In == "path"))
            {
                string id = name switch
                {
                    "earlier" => earlier,
                    "photo" => withPhoto.GetProperty("photos")[0].Text("id"),
                    "eventId" => withPhoto.GetProperty("lastChange").GetProperty("eventId").ToString(),
                    "field" => "owner",
                    "column" => "0",
                    _ => path.Contains("/runs", StringComparison.Ordinal) ? sheet.GetProperty("runs")[0].Text("id")
                    : path.Contains("/imports", StringComparison.Ordinal) ? sheet.GetProperty("imports")[0].Text("id")
                    : path.Contains("/bays", StringComparison.Ordinal) ? bay.Text("id")
                    : path.Contains("/people", StringComparison.Ordinal) ? me
                    : path.Contains("/parts", StringComparison.Ordinal) ? part.Text("id")
                    : job,
                };
                path = path.Replace($"{{{name}}}", id, StringComparison.Ordinal);
            }

            using HttpRequestMessage request = new(new HttpMethod(operation.Method), path + Query(operation.Id));
            request.Content = operation.Id switch
            {
                "addLog" => new ByteArrayContent(App.Example("02-paste-before.csv")),
                "addPhoto" => new ByteArrayContent(IntakeTests.Png),
                _ => operation.Body is null ? null : Json(BodyOf(operation.Id, job)),
            };
            using HttpResponseMessage answer = await other.SendAsync(request);
            Assert.True(
                answer.StatusCode == HttpStatusCode.NotFound,
                $"{operation.Method} {path}: {(int)answer.StatusCode} {await answer.Content.ReadAsStringAsync()}"
            );
            asked++;
        }

        Assert.True(asked >= 25, $"{asked} addresses were asked.");
        foreach (string list in new[] { "/api/jobs", "/api/jobs/due", "/api/parts", "/api/bays" })
        {
            Assert.Equal("[]", await other.GetStringAsync(list));
        }

        JsonElement records = await App.ReadAsync(await other.GetAsync("/api/records"));
        Assert.Equal((0, 0), (records.Count("series"), records.Count("league")));
        Assert.Equal(before, (await app.GetAsync($"/api/jobs/{job}")).ToString());

        static string Query(string operation) =>
            operation switch
            {
                "addLog" => "?fileName=a.csv",
                "addPhoto" => "?kind=photo&fileName=a.png",
                "retirePart" => "?retired=true",
                _ => "",
            };
    }

    private static string BodyOf(string operation, string job) =>
        operation switch
        {
            "saveField" => """{"value":"Theirs","base":null}""",
            "setConditions" => """{"conditions":{},"version":1}""",
            "setMarks" => """{"marks":[],"version":1}""",
            "leaveRunOut" => """{"reason":"theirs","version":1}""",
            "setRole" => """{"role":"other","version":1}""",
            "setImportRole" => """{"role":"time"}""",
            "setPhotoKind" => """{"kind":"proof"}""",
            "changePart" => """{"kind":"memory","name":"Theirs","cells":{}}""",
            "startBayRun" => $$"""{"jobId":"{{job}}","variant":"usual"}""",
            "addSetup" => """{"kind":"repair"}""",
            "openRound" => """{"reason":"worse"}""",
            "moveRun" => $$"""{"mountId":"{{job}}","version":1}""",
            "holdBayRun" => """{"held":true}""",
            "makePaper" => """{"kind":"bill","lines":[{"what":"Theirs","quantity":1,"unit":null,"unitMinor":1}]}""",
            "changePerson" => """{"name":"Theirs"}""",
            "setPin" => """{"pin":"2580"}""",
            "notePaperYes" => """{"by":null}""",
            _ => "{}",
        };

    private static StringContent Json(string json) => new(json, Encoding.UTF8, "application/json");

    /// <summary>A query that forgets its filter sees no other workshop's rows, and a row of another workshop is not written.</summary>
    [Fact]
    public async Task A_context_of_a_workshop_sees_and_writes_only_its_own()
    {
        Guid job = Guid.Parse((await app.NewJobAsync()).Text("id"));
        using HttpClient other = await app.OtherWorkshopAsync();
        await App.ReadAsync(await other.PostAsync("/api/jobs", null));
        await using RemedosContext all = await app.ContextAsync();
        Guid ours = (await all.Jobs.SingleAsync(j => j.Id == job)).WorkshopId;
        await using RemedosContext context = await app.ContextAsync();
        context.Workshop = ours;
        Assert.True(await context.Jobs.CountAsync() < await all.Jobs.CountAsync());
        Assert.Equal(ours, (await context.Workshops.SingleAsync()).Id);
        Guid foreign = (await all.Workshops.FirstAsync(w => w.Id != ours)).Id;
        context.Add(
            new LogFile
            {
                Id = Guid.NewGuid(),
                WorkshopId = foreign,
                Name = "x",
                Sha256 = new string('0', 64),
            }
        );
        await Assert.ThrowsAsync<InvalidOperationException>(() => context.SaveChangesAsync());
    }

    /// <summary>The database itself refuses a row of one workshop on a row of another.</summary>
    [Fact]
    public async Task Every_table_begins_with_the_workshop_and_nothing_is_deleted_along()
    {
        await using RemedosContext context = await app.ContextAsync();
        IEntityType[] tables =
        [
            .. context
                .Model.GetEntityTypes()
                .Where(type =>
                    !type.IsOwned()
                    && type.ClrType != typeof(Installation)
                    && type.ClrType.Namespace!.StartsWith("Remedos", StringComparison.Ordinal)
                    // Who gets in is looked up before any workshop is known.
                    && type.ClrType != typeof(Account)
                    && type.ClrType != typeof(SignIn)
                ),
        ];
        Assert.True(tables.Length >= 17);
        foreach (IEntityType table in tables)
        {
            Assert.Equal(table.ClrType == typeof(Workshop) ? "Id" : "WorkshopId", table.FindPrimaryKey()!.Properties[0].Name);
            Assert.All(table.GetForeignKeys().Where(key => key.PrincipalEntityType.ClrType != typeof(Account)), key =>
            {
                Assert.Equal("WorkshopId", key.Properties[0].Name);
                Assert.Equal(DeleteBehavior.Restrict, key.DeleteBehavior);
            });
        }

        Guid job = Guid.Parse((await app.NewJobAsync()).Text("id"));
        using HttpClient other = await app.OtherWorkshopAsync();
        Guid foreign = (await context.Workshops.OrderByDescending(w => w.Id).FirstAsync()).Id;
        Guid mount = (await context.Mounts.FirstAsync(m => m.JobId == job)).Id;
        LogFile file = new()
        {
            Id = Guid.NewGuid(),
            WorkshopId = foreign,
            Name = "x",
            Sha256 = new string('0', 64),
        };
        context.Add(file);
        await context.SaveChangesAsync();
        Guid person = (await context.People.SingleAsync(p => p.WorkshopId == foreign)).Id;
        context.Add(
            new Import
            {
                Id = Guid.NewGuid(),
                WorkshopId = foreign,
                JobId = job,
                PersonId = person,
                LogFileId = file.Id,
                Sha256 = file.Sha256,
                MountId = mount,
                Conditions = new(),
                State = Import.Done,
            }
        );
        await Assert.ThrowsAsync<DbUpdateException>(() => context.SaveChangesAsync());
        // A person who has done something stays: what he did would go with him.
        await Assert.ThrowsAsync<Npgsql.PostgresException>(() =>
            context.Database.ExecuteSqlAsync($"DELETE FROM people WHERE workshop_id <> {foreign}")
        );
    }
}

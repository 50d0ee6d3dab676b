using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Remedos.Core.Diagnosis;
using Remedos.Data;
using Remedos.Data.Records;
using Remedos.Server.Records;

namespace Remedos.Server.Tests;

/// <summary>What is kept by changes is what would be reckoned from everything; and a list, a sheet and its tag are of one state.</summary>
public sealed class RecordsTests(HostingTests.Demo app) : IClassFixture<HostingTests.Demo>
{
    private async Task<Guid> WorkshopAsync()
    {
        await using RemedosContext context = await app.ContextAsync();
        return await context.Workshops.Where(workshop => workshop.PracticeOf == null).Select(workshop => workshop.Id).SingleAsync();
    }

    /// <summary>All shares and totals, as text; times of moving left out.</summary>
    private async Task<string> KeptAsync()
    {
        await using RemedosContext context = await app.ContextAsync();
        RecordStand stand = await context.RecordStands.SingleAsync();
        return JsonSerializer.Serialize(
            new
            {
                Series = await context.SeriesShares.OrderBy(one => one.JobId).ToListAsync(),
                SeriesTotals = await context.SeriesTotals.OrderBy(one => one.Series).ToListAsync(),
                League = (await context.LeagueShares.OrderBy(one => one.JobId).ThenBy(one => one.Cooler).ToListAsync()).Select(one =>
                    (one.JobId, one.Cooler, one.Runs, Math.Round(one.LogRatio, 9)).ToString()
                ),
                LeagueTotals = (await context.LeagueTotals.OrderBy(one => one.Cooler).ToListAsync()).Select(one =>
                    (one.Name, one.Entry.Machines, Math.Round(one.Entry.Factor, 9), Math.Round(one.Entry.HalfWidthShare, 9)).ToString()
                ),
                Scatters = (await context.BenchScatters.OrderBy(one => one.JobId).ToListAsync())
                    .Where(one => one.MountDegrees + one.WithinDegrees > 0)
                    .Select(one => (one.JobId, Math.Round(one.MountSquares, 6), one.MountDegrees, one.WithinDegrees).ToString()),
                Repairs = await context.RepairShares.OrderBy(one => one.JobId).ThenBy(one => one.Round).ToListAsync(),
                RepairTotals = (await context.RepairTotals.OrderBy(one => one.Act).ToListAsync()).Select(one =>
                    (
                        one.Act,
                        one.Repairs,
                        one.Logged,
                        Math.Round(one.LogSum, 9),
                        Math.Round(one.LogSquares, 9),
                        one.Judged,
                        one.Solved
                    ).ToString()
                ),
                Fitted = await context.FittedShares.OrderBy(one => one.JobId).ThenBy(one => one.Kind).ThenBy(one => one.Part).ToListAsync(),
                FittedTotals = await context.FittedTotals.OrderBy(one => one.Kind).ThenBy(one => one.Part).ToListAsync(),
                Trials = (
                    await context.TrialShares.OrderBy(one => one.JobId).ThenBy(one => one.One).ThenBy(one => one.Other).ToListAsync()
                ).Select(one => (one.JobId, one.Kind, one.One, one.Other, one.Runs, Math.Round(one.ChangeC, 6)).ToString()),
                TrialTotals = (
                    await context.TrialTotals.OrderBy(one => one.Kind).ThenBy(one => one.One).ThenBy(one => one.Other).ToListAsync()
                ).Select(one =>
                    (
                        one.OneName,
                        one.OtherName,
                        one.Change.Machines,
                        Math.Round(one.Change.Mean, 6),
                        Math.Round(one.Change.StandardError, 6)
                    ).ToString()
                ),
                Led = (stand.LedRuns, Math.Round(stand.LedLogSum, 9), Math.Round(stand.LedLogSquares, 9)).ToString(),
                Sums = (
                    Math.Round(stand.MountSquares, 6),
                    stand.MountDegrees,
                    Math.Round(stand.WithinSquares, 6),
                    stand.WithinDegrees
                ).ToString(),
            }
        );
    }

    /// <summary>Forgets everything that is kept and reckons it from the jobs.</summary>
    private async Task<string> ReckonedAsync()
    {
        await using (RemedosContext context = await app.ContextAsync())
        {
            await context.SeriesShares.ExecuteDeleteAsync();
            await context.SeriesTotals.ExecuteDeleteAsync();
            await context.LeagueShares.ExecuteDeleteAsync();
            await context.LeagueTotals.ExecuteDeleteAsync();
            await context.BenchScatters.ExecuteDeleteAsync();
            await context.RepairShares.ExecuteDeleteAsync();
            await context.RepairTotals.ExecuteDeleteAsync();
            await context.FittedShares.ExecuteDeleteAsync();
            await context.FittedTotals.ExecuteDeleteAsync();
            await context.TrialShares.ExecuteDeleteAsync();
            await context.TrialTotals.ExecuteDeleteAsync();
            await context.RecordStands.ExecuteDeleteAsync();
        }

        await RelearnRecords.AllAsync(
            app.Services.GetRequiredService<IDbContextFactory<RemedosContext>>(),
            app.Services.GetRequiredService<KeepRecords>(),
            await WorkshopAsync(),
            TimeProvider.System,
            CancellationToken.None
        );
        return await KeptAsync();
    }

    private async Task<JsonElement[]> ListAsync(string query = "") => [.. (await app.GetAsync($"/api/jobs{query}")).EnumerateArray()];

    private async Task SetAsync(string job, string field, object? value)
    {
        JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
        JsonElement now = field.Split('.') is ["setup", { } number, { } its]
            ? sheet
                .GetProperty("setups")
                .EnumerateArray()
                .Single(setup => setup.GetProperty("number").ToString() == number)
                .GetProperty("values")
                .GetProperty(its)
            : sheet.GetProperty("fields").GetProperty(field);
        HttpResponseMessage answer = await app.SaveAsync(job, field, value, now);
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
    }

    private Task<HttpResponseMessage> LeaveOutAsync(JsonElement run, string? reason, uint? version = null) =>
        app.Client.PutAsJsonAsync(
            $"/api/runs/{run.Text("id")}/left-out",
            new { reason, version = version ?? run.GetProperty("version").GetUInt32() }
        );

    [Fact]
    public async Task A_run_that_is_left_out_teaches_nothing_and_undo_lets_it_count()
    {
        LeagueShare share;
        await using (RemedosContext context = await app.ContextAsync())
        {
            share = await context.LeagueShares.AsNoTracking().OrderBy(one => one.JobId).FirstAsync();
        }

        // What is kept, and what the sheet says of its runs, are one.
        async Task<bool> CountsAsync()
        {
            await using RemedosContext context = await app.ContextAsync();
            bool kept = await context.LeagueShares.AnyAsync(one => one.JobId == share.JobId && one.Cooler == share.Cooler);
            JsonElement counted = await app.GetAsync($"/api/jobs/{share.JobId}/counted");
            Assert.Equal(kept, counted.EnumerateArray().Any(run => Says(run, "over its catalogue")));
            return kept;
        }

        static bool Says(JsonElement run, string words) =>
            run.GetProperty("in").EnumerateArray().Any(one => one.GetString()!.EndsWith(words, StringComparison.Ordinal));

        string before = await KeptAsync();
        JsonElement sheet = await app.GetAsync($"/api/jobs/{share.JobId}");
        JsonElement first = sheet.GetProperty("runs")[0];
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await LeaveOutAsync(first, " ")).StatusCode);
        Assert.Equal(HttpStatusCode.Conflict, (await LeaveOutAsync(first, "stale", version: 1)).StatusCode);
        string verdict = sheet.GetProperty("headline").ToString();
        Stack<long> changes = [];
        foreach (JsonElement run in sheet.GetProperty("runs").EnumerateArray())
        {
            JsonElement now = await App.ReadAsync(await LeaveOutAsync(run, "the filter was off"));
            changes.Push(now.GetProperty("lastChange").GetProperty("eventId").GetInt64());
        }

        Assert.False(await CountsAsync());
        JsonElement after = await app.GetAsync($"/api/jobs/{share.JobId}");
        Assert.Equal("the filter was off", after.GetProperty("runs")[0].Text("leftOut"));
        // On its own job it stays what it is.
        Assert.Equal(verdict, after.GetProperty("headline").ToString());
        foreach (long change in changes)
        {
            Assert.True((await app.Client.PostAsync($"/api/jobs/{share.JobId}/undo/{change}", null)).IsSuccessStatusCode);
        }

        Assert.True(await CountsAsync());
        Assert.Equal(before, await KeptAsync());
    }

    [Fact]
    public async Task Repairs_are_told_with_the_machines_behind_them()
    {
        JsonElement records = await app.GetAsync("/api/records");
        JsonElement first = records.GetProperty("repairs")[0];
        JsonElement[] behind = [.. (await app.GetAsync($"/api/records/repair?act={first.Text("act")}")).EnumerateArray()];
        Assert.Equal(first.GetProperty("repairs").GetInt32(), behind.Length);
        Assert.Equal(
            first.GetProperty("solved").GetInt32(),
            behind.Count(one => one.GetProperty("solved").ValueKind == JsonValueKind.True)
        );
        Assert.StartsWith("repair,", await app.Client.GetStringAsync("/api/records/repairs.csv"));
    }

    /// <summary>A machine that left with a cooler and comes again with it worn out brings that part back, however it is known.</summary>
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task A_part_that_comes_back_is_told_and_its_series_is_as_old_as_its_fitting(bool bySerial)
    {
        string series = $"Tarn {Guid.NewGuid():N}"[..20],
            serial = $"STS {Guid.NewGuid():N}"[..20];
        JsonElement first = await app.NewJobAsync();
        string left = first.Text("id");
        await SetAsync(left, "cooler", "Rill 240");
        await SetAsync(left, "builtOn", "2019-03-11");
        await SetAsync(left, "serial", bySerial ? serial : null);
        await app.AddSetupAsync(left, "other-cooler", new { cooler = series });

        async Task<JsonElement?> TotalAsync() =>
            (await app.GetAsync("/api/records"))
                .GetProperty("parts")
                .EnumerateArray()
                .Where(part => part.Text("name") == series)
                .Cast<JsonElement?>()
                .SingleOrDefault();

        // While the machine is here it has not stayed yet.
        Assert.Null(await TotalAsync());
        await SetAsync(left, "handedOverAt", "2026-11-20T12:00:00Z");
        Assert.Equal((1, 0, 0), Counts((await TotalAsync())!.Value));

        string again = (await app.NewJobAsync()).Text("id");
        await SetAsync(again, "serial", bySerial ? serial.ToLowerInvariant() : first.Text("tag"));
        await SetAsync(again, "cooler", series);
        await SetAsync(again, "builtOn", "2019-03-11");
        await SetAsync(again, "repairCauses", new[] { "dust-blocked-fins" });
        Assert.Equal((1, 0, 0), Counts((await TotalAsync())!.Value));
        await SetAsync(again, "repairCauses", new[] { "pump-failed" });
        Assert.Equal((1, 0, 1), Counts((await TotalAsync())!.Value));
        string named = Uri.EscapeDataString(series);
        JsonElement behind = (await app.GetAsync($"/api/records/part?kind=cooler&name={named}")).EnumerateArray().Single();
        Assert.Equal((left, again), (behind.Text("job"), behind.Text("backJob")));
        // The machine is seven years old, its cooler is new.
        JsonElement seen = (await app.GetAsync($"/api/records/behind?series={named}")).GetProperty("machines")[0];
        Assert.InRange(seen.GetProperty("months").GetDouble(), 0, 1);
        Assert.Contains(series, await app.Client.GetStringAsync("/api/records/parts.csv"), StringComparison.Ordinal);
        // It was another machine: what was read off it wrongly brings nothing back.
        await SetAsync(again, "serial", $"STS {Guid.NewGuid():N}"[..20]);
        Assert.Equal((1, 0, 0), Counts((await TotalAsync())!.Value));
        await SetAsync(again, "serial", bySerial ? serial : first.Text("tag"));
        Assert.Equal((1, 0, 1), Counts((await TotalAsync())!.Value));

        await SetAsync(left, "setup.2.failedWhy", "it leaked");
        Assert.Equal((1, 1, 0), Counts((await TotalAsync())!.Value));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, (await app.Client.GetAsync("/api/records/part?kind=case&name=x")).StatusCode);

        static (int, int, int) Counts(JsonElement part) =>
            (part.GetProperty("fitted").GetInt32(), part.GetProperty("takenOff").GetInt32(), part.GetProperty("cameBack").GetInt32());
    }

    /// <summary>How long a series lasts is told a machine without what the machine itself gave, this time and the time before.</summary>
    [Fact]
    public async Task No_machine_is_evidence_about_itself_when_it_comes_again()
    {
        string series = $"Tarn {Guid.NewGuid():N}"[..20];
        JsonElement first = default;
        for (int i = 0; i < 6; i++)
        {
            first = await app.NewJobAsync();
            await SetAsync(first.Text("id"), "cooler", series);
            await SetAsync(first.Text("id"), "builtOn", $"2023-0{i + 1}-11");
            await SetAsync(first.Text("id"), "repairCauses", new[] { "pump-failed" });
        }

        string again = (await app.NewJobAsync()).Text("id");
        await SetAsync(again, "cooler", series);
        Assert.Contains("6 of 6 had failed", await NotesAsync(again), StringComparison.Ordinal);
        await SetAsync(again, "serial", first.Text("tag"));
        Assert.Contains("5 of 5 had failed", await NotesAsync(again), StringComparison.Ordinal);
        await SetAsync(again, "builtOn", "2023-06-11");
        await SetAsync(again, "repairCauses", new[] { "pump-failed" });
        Assert.Contains("5 of 5 had failed", await NotesAsync(again), StringComparison.Ordinal);
        Assert.Contains("5 of 5 had failed", await NotesAsync(first.Text("id")), StringComparison.Ordinal);
        JsonElement behind = await app.GetAsync($"/api/records/behind?series={Uri.EscapeDataString(series)}");
        Assert.Equal((6, 6), (behind.GetProperty("machines").GetArrayLength(), behind.GetProperty("curve").EnumerateArray().Count()));

        async Task<string> NotesAsync(string job) =>
            string.Join(' ', (await app.GetAsync($"/api/jobs/{job}/diagnosis")).GetProperty("notes").EnumerateArray());
    }

    /// <summary>What was only tried has not been fitted, and what went back on has.</summary>
    [Fact]
    public async Task A_machine_leaves_with_what_was_on_it_in_the_end()
    {
        string stayed = $"Tarn {Guid.NewGuid():N}"[..20],
            tried = $"Tarn {Guid.NewGuid():N}"[..20];
        string job = (await app.NewJobAsync()).Text("id");
        await app.AddSetupAsync(job, "other-cooler", new { cooler = stayed, paste = "Chalk 2" });
        await app.AddSetupAsync(job, "other-cooler", new { cooler = tried });
        HttpResponseMessage back = await app.Client.PostAsJsonAsync(
            $"/api/jobs/{job}/setups",
            new
            {
                kind = "fans",
                like = 2,
                values = new { fans = "its own" },
            }
        );
        Assert.True(back.IsSuccessStatusCode, await back.Content.ReadAsStringAsync());
        await SetAsync(job, "handedOverAt", "2026-11-20T12:00:00Z");
        async Task<string[]> WithAsync(string kind, string name) =>
            [
                .. (await app.GetAsync($"/api/records/part?kind={kind}&name={Uri.EscapeDataString(name)}"))
                    .EnumerateArray()
                    .Select(one => one.Text("job")),
            ];
        Assert.Equal([job], await WithAsync("cooler", stayed));
        Assert.Empty(await WithAsync("cooler", tried));
        Assert.Contains(job, await WithAsync("paste", "Chalk 2"));
        // Paste that nobody named comes over the one that was.
        await app.AddSetupAsync(job, "other-paste", new { paste = "new paste" });
        await SetAsync(job, "handedOverAt", null);
        await SetAsync(job, "handedOverAt", "2026-11-21T12:00:00Z");
        Assert.DoesNotContain(job, await WithAsync("paste", "Chalk 2"));
    }

    /// <summary>Two pastes on two machines of the demo; a run that is left out takes its machine out of the figure.</summary>
    [Fact]
    public async Task Pastes_are_told_with_the_machines_behind_them_and_follow_what_is_left_out()
    {
        async Task<JsonElement> PairAsync() =>
            (await app.GetAsync("/api/records"))
                .GetProperty("trials")
                .EnumerateArray()
                .Single(trial => trial.Text("kind") == "paste" && trial.Text("one") == "Chalk 2" && trial.Text("other") == "Tallow Grey 5");
        const string Behind = "/api/records/trial?kind=paste&one=Chalk%202&other=Tallow%20Grey%205";
        JsonElement pair = await PairAsync();
        JsonElement[] machines = [.. (await app.GetAsync(Behind)).EnumerateArray()];
        Assert.Equal(2, machines.Length);
        Assert.Equal(2, pair.GetProperty("machines").GetInt32());
        double[] changes = [.. machines.Select(one => one.GetProperty("change").GetDouble())];
        Assert.InRange(pair.GetProperty("change").GetDouble(), changes.Min(), changes.Max());
        Assert.Contains("Tallow Grey 5 runs", pair.Text("sentence"), StringComparison.Ordinal);

        // Whoever puts paste on reads it at that step.
        string another = (await app.NewJobAsync()).Text("id");
        Assert.Contains(
            "On this bench: Tallow Grey 5 runs",
            await app.Client.GetStringAsync($"/api/jobs/{another}/repair?act=remount"),
            StringComparison.Ordinal
        );

        JsonElement sheet = await app.GetAsync($"/api/jobs/{machines[0].Text("job")}");
        Stack<long> undo = [];
        foreach (JsonElement run in sheet.GetProperty("runs").EnumerateArray())
        {
            JsonElement now = await App.ReadAsync(await LeaveOutAsync(run, "the door stood open"));
            undo.Push(now.GetProperty("lastChange").GetProperty("eventId").GetInt64());
        }

        Assert.Equal(1, (await PairAsync()).GetProperty("machines").GetInt32());
        Assert.Equal(changes[1], (await PairAsync()).GetProperty("change").GetDouble(), 9);
        foreach (long change in undo)
        {
            Assert.True((await app.Client.PostAsync($"/api/jobs/{sheet.Text("id")}/undo/{change}", null)).IsSuccessStatusCode);
        }

        Assert.Equal(pair.ToString(), (await PairAsync()).ToString());
        Assert.StartsWith("what,one,other", await app.Client.GetStringAsync("/api/records/trials.csv"));
        Assert.Equal(
            HttpStatusCode.UnprocessableEntity,
            (await app.Client.GetAsync("/api/records/trial?kind=colour&one=a&other=b")).StatusCode
        );
    }

    /// <summary>How well the bench repeats itself stands on the machines that it opens.</summary>
    [Fact]
    public async Task The_bench_opens_the_machines_that_it_was_learnt_from()
    {
        JsonElement bench = (await app.GetAsync("/api/records")).GetProperty("bench");
        JsonElement[] machines = [.. (await app.GetAsync("/api/records/bench")).EnumerateArray()];
        foreach (string what in new[] { "remounts", "repeats" })
        {
            double all = bench.GetProperty(what).GetDouble();
            Assert.True(all > 0);
            Assert.Equal(all, machines.Sum(one => one.GetProperty(what).GetDouble()), 9);
        }

        Assert.Contains($"from {bench.GetProperty("remounts").GetDouble():0} re-mounts", bench.Text("sentence"), StringComparison.Ordinal);
    }

    /// <summary>Wherever a series is offered, weighed, quoted or diagnosed, its record stands beside it, and it is the same one.</summary>
    [Fact]
    public async Task A_series_record_stands_wherever_it_is_offered()
    {
        string job = (await ListAsync("?search=SL-0412")).Single().Text("id");
        string named = (await app.GetAsync("/api/records"))
            .GetProperty("series")
            .EnumerateArray()
            .Single(one => one.Text("name") == "Rill 240")
            .Text("sentence");
        JsonElement offered = await app.GetAsync($"/api/jobs/{job}/coolers");
        JsonElement SeenOf(string cooler) =>
            offered
                .GetProperty("seen")
                .GetProperty(
                    offered
                        .GetProperty("match")
                        .GetProperty("candidates")
                        .EnumerateArray()
                        .First(one => one.Text("name") == cooler)
                        .Text("id")
                );
        string said = SeenOf("Rill 240").Text("sentence");
        Assert.StartsWith($"Here {char.ToLowerInvariant(named[0])}{named[1..]}", said);
        // Its next generation has no record yet: the one before speaks, and is not called its own.
        Assert.Equal(
            (false, $"Nothing is seen of it yet. Of Rill 240, whose next generation it is: h{said[1..]}"),
            (SeenOf("Rill 240 Hush").GetProperty("early").GetBoolean(), SeenOf("Rill 240 Hush").Text("sentence"))
        );
        Assert.Contains((await app.GetAsync($"/api/jobs/{job}/diagnosis")).GetProperty("notes").EnumerateArray(), note =>
            note.GetString()!.StartsWith("How long Rill 240 lasts here: ", StringComparison.Ordinal)
        );
        string quoted = (await app.NewJobAsync()).Text("id");
        await SetAsync(quoted, "repairParts", "Rill 240");
        Assert.Equal(said, (await app.GetAsync($"/api/jobs/{quoted}/papers")).GetProperty("seen").GetProperty("Rill 240").Text("sentence"));
    }

    [Fact]
    public async Task Whatever_is_changed_the_records_are_those_that_the_jobs_make()
    {
        Assert.Equal(await KeptAsync(), await ReckonedAsync());

        Random random = new(20261128);
        string[] jobs = [.. (await ListAsync()).Select(tag => tag.Text("id"))];
        string[] coolers = ["Rill 240", " rill 240 ", "Corvane Ridge 2", "Nothing known 3", ""];
        string[] causes = [.. DiagnosisTables.Causes.Select(cause => cause.Id).Take(6)];
        for (int step = 0; step < 80; step++)
        {
            string job = jobs[random.Next(jobs.Length)];
            JsonElement sheet = await app.GetAsync($"/api/jobs/{job}");
            switch (random.Next(11))
            {
                case 8:
                    await SetAsync(job, "serial", $"STS-{1 + random.Next(3)}");
                    break;
                case 9 when sheet.Count("setups") > 1:
                    await SetAsync(job, "setup.2.cooler", coolers[random.Next(3)]);
                    break;
                case 10 when sheet.Count("setups") > 1:
                    await SetAsync(job, "setup.2.paste", random.Next(2) == 0 ? "Chalk 2" : "Tallow Grey 5");
                    break;
                case 0:
                    await SetAsync(job, "cooler", coolers[random.Next(coolers.Length)] is { Length: > 0 } name ? name : null);
                    break;
                case 1:
                    await SetAsync(job, "repairCauses", causes.Where(_ => random.Next(3) == 0).ToArray());
                    break;
                case 2:
                    await SetAsync(job, "builtOn", $"{2018 + random.Next(6)}-0{1 + random.Next(9)}-11");
                    break;
                case 3:
                    await SetAsync(job, "roomC", 18 + random.Next(10));
                    break;
                case 4 when sheet.Count("runs") > 0:
                    await app.Client.DeleteAsync($"/api/runs/{sheet.GetProperty("runs")[0].Text("id")}");
                    break;
                case 5 when sheet.Count("runs") > 0:
                    await LeaveOutAsync(sheet.GetProperty("runs")[0], random.Next(2) == 0 ? "the panel was open" : null);
                    break;
                case 6:
                    await SetAsync(job, "handedOverAt", random.Next(2) == 0 ? "2026-11-20T12:00:00Z" : null);
                    break;
                default:
                    if (sheet.GetProperty("lastChange") is { ValueKind: JsonValueKind.Object } last)
                    {
                        await app.Client.PostAsync($"/api/jobs/{job}/undo/{last.GetProperty("eventId").GetInt64()}", null);
                    }

                    break;
            }
        }

        Assert.Equal(await KeptAsync(), await ReckonedAsync());
    }

    [Fact]
    public async Task A_part_that_is_known_better_moves_what_was_learnt_with_it()
    {
        await using RemedosContext context = await app.ContextAsync();
        LeagueTotal before = await context.LeagueTotals.AsNoTracking().OrderBy(total => total.Cooler).FirstAsync();
        JsonElement part = (await app.GetAsync("/api/parts")).EnumerateArray().First(one => one.Text("name") == before.Name);
        Dictionary<string, string> cells = part.GetProperty("cells")
            .EnumerateObject()
            .ToDictionary(cell => cell.Name, cell => cell.Value.GetString()!);
        // Points go before what the maker claims, and are worth more.
        cells["performance"] = "900:0.2; 1800:0.14";
        HttpResponseMessage answer = await app.Client.PutAsJsonAsync(
            $"/api/parts/{part.Text("id")}",
            new
            {
                kind = "cooler",
                name = before.Name,
                cells,
                version = part.GetProperty("version").GetUInt32(),
            }
        );
        Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
        LeagueTotal after = await context.LeagueTotals.AsNoTracking().SingleAsync(total => total.Cooler == before.Cooler);
        Assert.NotEqual(before.Entry.Factor, after.Entry.Factor);
        Assert.Equal(before.Entry, after.Before);
        // The figure says so wherever it is used, and opens what it is made of.
        JsonElement told = (await app.GetAsync("/api/records"))
            .GetProperty("league")
            .EnumerateArray()
            .Single(one => one.Text("name") == before.Name);
        Assert.Contains($"until {DateTime.UtcNow:d MMMM yyyy}, another value of the part", told.Text("sentence"), StringComparison.Ordinal);
        JsonElement opened = await app.GetAsync($"/api/records/cooler?name={Uri.EscapeDataString(before.Name)}");
        Assert.StartsWith("Too few machines", opened.Text("trend"));
        JsonElement behind = opened.GetProperty("machines");
        Assert.Equal(after.Entry.Machines, behind.GetArrayLength());
        double mean = behind.EnumerateArray().Average(one => Math.Log(one.GetProperty("factor").GetDouble()));
        Assert.True(
            Math.Abs(Math.Log(after.Entry.Factor)) <= Math.Abs(mean) + 1e-9,
            "What is pooled lies between nothing and what was shown."
        );
        Assert.Equal(await KeptAsync(), await ReckonedAsync());
    }

    [Fact]
    public async Task Eight_machines_of_one_series_found_at_once_are_eight()
    {
        string series = $"Tarn {Guid.NewGuid():N}"[..20];
        List<string> jobs = [];
        for (int i = 0; i < 8; i++)
        {
            string job = (await app.NewJobAsync()).Text("id");
            await SetAsync(job, "cooler", series);
            jobs.Add(job);
        }

        await Task.WhenAll(
            jobs.Select(async job =>
            {
                HttpResponseMessage answer = await app.SaveAsync(job, "repairCauses", new[] { "pump-failed" }, Array.Empty<string>());
                Assert.True(answer.IsSuccessStatusCode, await answer.Content.ReadAsStringAsync());
            })
        );
        await using RemedosContext context = await app.ContextAsync();
        SeriesTotal total = await context.SeriesTotals.SingleAsync(one => one.Name == series);
        Assert.Equal((8, 8), (total.Machines, total.Causes["pump-failed"]));
    }

    [Fact]
    public async Task A_tag_in_the_list_says_what_its_sheet_says()
    {
        // What has changed elsewhere comes to the tags behind the first answers.
        List<string> otherwise = [];
        for (int look = 0; look < 40; look++, await Task.Delay(250))
        {
            otherwise = [];
            foreach (JsonElement tag in await ListAsync())
            {
                JsonElement sheet = await app.GetAsync($"/api/jobs/{tag.Text("id")}");
                string told = $"{tag.GetProperty("headline").GetRawText()} {tag.Text("nowTitle")} {tag.Text("waitsFor")}",
                    said =
                        $"{sheet.GetProperty("headline").GetRawText()} {sheet.GetProperty("now").Text("title")} {sheet.Text("waitsFor")}";
                if (told != said)
                {
                    otherwise.Add($"{told} / {said}");
                }
            }

            if (otherwise.Count == 0)
            {
                break;
            }
        }

        Assert.Empty(otherwise);

        // Its own change is told at once.
        string job = (await app.NewJobAsync()).Text("id");
        await SetAsync(job, "waitingFor", "part");
        Assert.Equal("part", (await ListAsync()).Single(tag => tag.Text("id") == job).Text("waitsFor"));
    }

    private async Task<(HttpStatusCode Status, string Tag)> AskAsync(string path, string? tag, HttpClient? by = null)
    {
        using HttpRequestMessage request = new(HttpMethod.Get, path);
        if (tag is not null)
        {
            request.Headers.TryAddWithoutValidation("If-None-Match", tag);
        }

        HttpResponseMessage answer = await (by ?? app.Client).SendAsync(request);
        return (answer.StatusCode, answer.Headers.ETag!.ToString());
    }

    [Fact]
    public async Task What_has_not_changed_is_not_answered_twice_and_what_has_changed_is()
    {
        string job = (await app.NewJobAsync()).Text("id"),
            earlier = (await ListAsync()).First(tag => tag.Text("tag") == "SL-0412").Text("id"),
            sheet = $"/api/jobs/{job}";
        await SetAsync(job, "owner", (await app.GetAsync($"/api/jobs/{earlier}")).GetProperty("fields").Text("owner").ToUpperInvariant());
        foreach (string path in new[] { sheet, "/api/jobs", $"/api/jobs?search=SL" })
        {
            (_, string tag) = await AskAsync(path, null);
            // Tags of the list are renewed behind the first looks at it, some at a time.
            for (int look = 0, still = 0; look < 60 && still < 3; look++)
            {
                await Task.Delay(250);
                still = (await AskAsync(path, tag)).Status == HttpStatusCode.NotModified ? still + 1 : 0;
                (_, tag) = await AskAsync(path, null);
            }

            Assert.Equal((HttpStatusCode.NotModified, tag), await AskAsync(path, tag));
            Assert.Equal((HttpStatusCode.NotModified, tag), await AskAsync(path, "\"other\", W/" + tag));
            Assert.Equal((HttpStatusCode.OK, tag), await AskAsync(path, "\"other\""));
        }

        async Task ChangesAsync(Func<Task> change)
        {
            string tag = (await AskAsync(sheet, null)).Tag;
            await change();
            Assert.Equal(HttpStatusCode.OK, (await AskAsync(sheet, tag)).Status);
        }

        await ChangesAsync(() => SetAsync(job, "noticed", "loud"));
        // The same owner's other machine is told on this sheet.
        await ChangesAsync(() => SetAsync(earlier, "repairFound", $"dust {Guid.NewGuid()}"));
        await ChangesAsync(async () =>
            Assert.True(
                (
                    await app.Client.PatchAsJsonAsync(
                        "/api/settings/labourMinorPerHour",
                        new { value = 5100, @base = (await app.GetAsync("/api/settings")).GetProperty("labourMinorPerHour") }
                    )
                ).IsSuccessStatusCode
            )
        );
        await ChangesAsync(async () => await app.AddLogAsync(job, "before", "log.csv", App.Example("02-paste-before.csv")));
        await app.SheetWhenAsync(job, one => one.Count("runs") == 1);

        // A run that is read anew leaves its job's row as it is, and is told all the same.
        (_, string before) = await AskAsync("/api/jobs", null);
        await using (RemedosContext context = await app.ContextAsync())
        {
            Data.Runs.Run run = await context.Runs.SingleAsync(one => one.JobId == Guid.Parse(job));
            run.Rows++;
            context.Workshop = run.WorkshopId;
            await using var transaction = await context.Database.BeginTransactionAsync();
            await context.SaveChangesAsync();
            await app.Services.GetRequiredService<KeepRecords>().FollowAsync(context, run.WorkshopId, DateTimeOffset.UtcNow, default);
            await transaction.CommitAsync();
        }

        Assert.Equal(HttpStatusCode.OK, (await AskAsync("/api/jobs", before)).Status);
    }

    [Fact]
    public async Task A_search_finds_words_whatever_their_case_and_signs_stand_for_themselves()
    {
        string job = (await app.NewJobAsync()).Text("id");
        string mark = Guid.NewGuid().ToString("N")[..8];
        await SetAsync(job, "owner", $"Ölmühle {mark}");
        await SetAsync(job, "noticed", "100% loud_under\\load, it's \"hot\"");
        string number = (await app.GetAsync($"/api/jobs/{job}")).Text("tag");
        foreach (
            string search in new[]
            {
                $"ölMÜHLE {mark}",
                $"{mark} 100%",
                $"{mark} loud_u",
                $"{mark} r\\l",
                $"{mark} it's",
                $"{mark} {number.ToLowerInvariant()}",
                $"{mark[..2]} {mark} \"hot\"",
                $"{mark} {number[..^1]}",
                number,
            }
        )
        {
            Assert.Contains(await ListAsync($"?search={Uri.EscapeDataString(search)}"), tag => tag.Text("id") == job);
        }

        foreach (string search in new[] { $"{mark} 1_0%", $"{mark} %loud%load", $"{mark} SL-x", $"{mark} nothing" })
        {
            Assert.Empty(await ListAsync($"?search={Uri.EscapeDataString(search)}"));
        }
    }
}

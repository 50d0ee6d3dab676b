using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Diagnostics.HealthChecks;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Server.Airflow;
using Remedos.Server.Backups;
using Remedos.Server.Bays;
using Remedos.Server.Bundles;
using Remedos.Server.Coolers;
using Remedos.Server.Demo;
using Remedos.Server.Diagnosis;
using Remedos.Server.Files;
using Remedos.Server.Hosting;
using Remedos.Server.Jobs;
using Remedos.Server.Options;
using Remedos.Server.Owners;
using Remedos.Server.Parts;
using Remedos.Server.People;
using Remedos.Server.Photos;
using Remedos.Server.Planning;
using Remedos.Server.Practice;
using Remedos.Server.Queue;
using Remedos.Server.Rechecks;
using Remedos.Server.Records;
using Remedos.Server.Repair;
using Remedos.Server.Reports;
using Remedos.Server.Runs;
using Remedos.Server.Session;
using Remedos.Server.Settings;
using Remedos.Server.Writing;
using Serilog;

WebApplicationBuilder builder = WebApplication.CreateBuilder(args);
ServingAt serving;
try
{
    serving = ServingAt.Of(builder.Configuration);
    _ = NewsLine.OptionsOf(builder.Configuration);
}
catch (StartupException why)
{
    await Startup.RefuseAsync(why);
    return;
}

// One log, written once; a collector hears it from there.
builder.Logging.ClearProviders();
Telemetry.Add(builder);
builder.Services.AddSerilog(
    log =>
    {
        const string line = "{Timestamp:yyyy-MM-dd HH:mm:ss.fff} {Level:u3} {SourceContext} {Message:lj}{NewLine}{Exception}";
        log.ReadFrom.Configuration(builder.Configuration);
        // Ten files of ten megabytes, the oldest going first; without a folder, to whoever started it.
        _ = builder.Configuration.GetValue<string>("LogFolder") is { Length: > 0 } folder
            ? log.WriteTo.File(
                Path.Combine(folder, "server.log"),
                outputTemplate: line,
                fileSizeLimitBytes: 10_000_000,
                rollOnFileSizeLimit: true,
                retainedFileCountLimit: 10,
                formatProvider: System.Globalization.CultureInfo.InvariantCulture
            )
            : log.WriteTo.Console(outputTemplate: line, formatProvider: System.Globalization.CultureInfo.InvariantCulture);
    },
    writeToProviders: true
);

// Only by its own names, so that no other page's name leads here.
builder.Configuration["AllowedHosts"] = Uri.TryCreate(
    builder.Configuration.GetValue<string>("PublicAddress"),
    UriKind.Absolute,
    out Uri? known
)
    ? $"localhost;127.0.0.1;{known.Host}"
    : "localhost;127.0.0.1";
builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.AddServerHeader = false;
    serving.Listen(kestrel);
});

builder.Services.AddPooledDbContextFactory<RemedosContext>(options =>
    options
        .UseNpgsql(Databases.Connection(builder.Configuration, "Remedos") ?? "Host=127.0.0.1;Database=remedos")
        .UseSnakeCaseNamingConvention()
);
builder.Services.AddSingleton<ReadReplica>();
builder.Services.AddSingleton(TimeProvider.System);
IDataProtectionBuilder protection = builder.Services.AddDataProtection().SetApplicationName("remedos");
if (!Pages.IsGeneratingDocuments)
{
    protection.PersistKeysToDbContext<RemedosContext>();
    KeyFile.Protect(protection, builder.Configuration);
}

builder.Services.AddAntiforgery(antiforgery =>
{
    antiforgery.HeaderName = "X-Remedos-Token";
    antiforgery.Cookie.Name = serving.Secure ? "__Host-remedos-antiforgery" : "remedos-antiforgery";
    antiforgery.Cookie.SecurePolicy = serving.CookiePolicy;
    antiforgery.Cookie.SameSite = SameSiteMode.Strict;
});
builder.Services.AddSignIn(serving);
builder.Services.AddResponseCompression();
builder.Services.AddOpenApi(WireJson.Describe);
builder.Services.AddProblemSentences();
builder.Services.AddHttpContextAccessor();
builder.Services.AddScoped<Caller>();
builder.Services.AddScoped<Outcome>();
builder.Services.AddSingleton<KeepRecords>();
builder.Services.AddSingleton<Writes>();
builder.Services.AddScoped<WriteDoor>();
builder.Services.AddFiles(builder.Configuration);
builder.Services.AddSingleton<QueueBell>();
builder.Services.AddSingleton<PublicAddress>();
builder.Services.AddJobs();
builder.Services.AddPlanning();
builder.Services.AddPractice();
builder.Services.AddDiagnosis();
builder.Services.AddRuns();
builder.Services.AddBays();
builder.Services.AddBundles();
builder.Services.AddBackups();
builder.Services.AddHealthChecks().AddCheck<Health>("remedos");
builder.Services.ConfigureHttpJsonOptions(json => WireJson.Tightened(json.SerializerOptions));
if (!Pages.IsGeneratingDocuments)
{
    builder.Services.AddHostedService<QueueWorker>();
    builder.Services.AddSingleton<Retention>();
    builder.Services.AddHostedService(provider => provider.GetRequiredService<Retention>());
}

// Whatever hangs, the server ends within seconds of being told to.
builder.Services.Configure<HostOptions>(host => host.ShutdownTimeout = TimeSpan.FromSeconds(3));

builder.Services.Configure<Microsoft.AspNetCore.RateLimiting.RateLimiterOptions>(SharedPage.Limit);
builder.Services.Configure<Microsoft.AspNetCore.RateLimiting.RateLimiterOptions>(HeavyLimit.Limit);
builder.Services.Configure<Microsoft.AspNetCore.RateLimiting.RateLimiterOptions>(limits =>
    SignInLimit.Limit(limits, builder.Configuration)
);
WebApplication app = builder.Build();
serving.Trust(app);
if (!Pages.IsGeneratingDocuments)
{
    app.UseOpenTelemetryPrometheusScrapingEndpoint(Telemetry.IsFromHere);
}

app.UseResponseCompression();
app.UseMiddleware<PracticeDoor>();
app.UseMiddleware<SecurityHeaders>();
app.UseProblemSentences();
app.UseStaticFiles(Pages.StaticFiles);
app.UseRouting();
app.UseAuthentication();
app.Use(PracticeDoor.GuardAsync);
app.Use(ToldDegrees.ForWhoAsksAsync);
app.UseAuthorization();
app.UseRateLimiter();
app.UseMiddleware<RequestGuard>();
app.UseMiddleware<AntiforgeryForApi>();
app.MapOpenApi().RequireAuthorization();
app.MapHealthChecks("/health/alive", new HealthCheckOptions { Predicate = _ => false });
app.MapHealthChecks("/health/ready", new HealthCheckOptions { ResponseWriter = Health.WriteAsync });
app.MapHealthChecks("/health", new HealthCheckOptions { ResponseWriter = Health.WriteAsync });
RouteGroupBuilder api = app.MapGroup("/api").RequireAuthorization();
api.MapSession();
api.MapSignIn();
api.MapTakeOver();
api.MapJoin();
api.MapAccount();
api.MapPeople();
api.MapAudit();
api.MapOwners();
api.MapJobs();
api.MapDiagnosis();
api.MapPhotos();
api.MapParts();
api.MapCoolers();
api.MapKeepMeasure();
api.MapAir();
api.MapOptions();
api.MapRepair();
api.MapReports();
api.MapBundles();
api.MapReportLinks();
api.MapPapers();
api.MapClaims();
api.MapRechecks();
api.MapRecords();
api.MapPlanning();
api.MapPractice();
api.MapSettings();
api.MapLogo();
api.MapBackups();
api.MapRuns();
api.MapBays();
app.MapHub<LiveHub>(LiveHub.Path).RequireAuthorization();
app.MapSharedPage();
Pages.Map(app);

if (app.Configuration.GetValue("Migrate", true) && !Pages.IsGeneratingDocuments)
{
    try
    {
        await Startup.PrepareAsync(app.Services, app.Configuration.GetValue("Demo", false), CancellationToken.None);
    }
    catch (StartupException why)
    {
        Log.Error("Remedos does not start: {Why}", why.Message);
        await Log.CloseAndFlushAsync();
        await Startup.RefuseAsync(why);
        return;
    }

    if (app.Configuration.GetValue("Fill", 0) is > 0 and int jobs)
    {
        await FillWorkshop.RunAsync(app.Services, jobs, told => Log.Information("Filling: {Told}", told), CancellationToken.None);
    }
}

await app.RunAsync();

/// <summary>The entry point, public so that tests can host it.</summary>
public sealed partial class Program
{
    private Program() { }
}

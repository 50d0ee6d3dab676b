using System.Net;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.EntityFrameworkCore;
using Remedos.Data;
using Remedos.Server.Airflow;
using Remedos.Server.Bays;
using Remedos.Server.Coolers;
using Remedos.Server.Diagnosis;
using Remedos.Server.Hosting;
using Remedos.Server.Jobs;
using Remedos.Server.Parts;
using Remedos.Server.Photos;
using Remedos.Server.Runs;
using Remedos.Server.Session;
using Remedos.Server.Settings;
using Serilog;

WebApplicationBuilder builder = WebApplication.CreateBuilder(args);
builder.Services.AddSerilog(log => log
    .ReadFrom.Configuration(builder.Configuration)
    .WriteTo.Console(outputTemplate: "{Timestamp:yyyy-MM-dd HH:mm:ss.fff} {Level:u3} {SourceContext} {Message:lj}{NewLine}{Exception}"));

// Loopback only, whatever the settings say, until people sign in.
builder.WebHost.ConfigureKestrel(kestrel =>
{
    kestrel.AddServerHeader = false;
    kestrel.Listen(IPAddress.Loopback, builder.Configuration.GetValue("Port", 5080));
});

builder.Services.AddDbContextFactory<RemedosContext>(options => options
    .UseNpgsql(builder.Configuration.GetConnectionString("Remedos") ?? "Host=127.0.0.1;Database=remedos")
    .UseSnakeCaseNamingConvention());
builder.Services.AddSingleton(TimeProvider.System);
IDataProtectionBuilder protection = builder.Services.AddDataProtection().SetApplicationName("remedos");
if (!Pages.IsGeneratingDocuments)
{
    protection.PersistKeysToDbContext<RemedosContext>();
}

builder.Services.AddAntiforgery(antiforgery =>
{
    antiforgery.HeaderName = "X-Remedos-Token";
    antiforgery.Cookie.Name = "remedos-antiforgery";
    antiforgery.Cookie.SameSite = SameSiteMode.Strict;
});
builder.Services.AddResponseCompression();
builder.Services.AddOpenApi();
builder.Services.AddProblemSentences();
builder.Services.AddScoped<Bench>();
builder.Services.AddJobs();
builder.Services.AddDiagnosis();
builder.Services.AddRuns(builder.Configuration);
builder.Services.AddBays();
builder.Services.AddHealthChecks().AddCheck<DatabaseHealth>("database");
builder.Services.ConfigureHttpJsonOptions(json => json.SerializerOptions.NumberHandling = System.Text.Json.Serialization.JsonNumberHandling.Strict);

WebApplication app = builder.Build();
app.UseResponseCompression();
app.UseProblemSentences();
app.UseMiddleware<SecurityHeaders>();
app.UseStaticFiles(Pages.StaticFiles);
app.UseMiddleware<AntiforgeryForApi>();
app.UseRateLimiter();
app.MapOpenApi();
app.MapHealthChecks("/health");
RouteGroupBuilder api = app.MapGroup("/api");
api.MapSession();
api.MapJobs();
api.MapDiagnosis();
api.MapPhotos();
api.MapParts();
api.MapCoolers();
api.MapAir();
api.MapSettings();
api.MapRuns();
api.MapBays();
app.MapHub<LiveHub>(LiveHub.Path);
Pages.Map(app);

if (app.Configuration.GetValue("Migrate", true) && !Pages.IsGeneratingDocuments)
{
    await Startup.PrepareAsync(app.Services, app.Configuration.GetValue("Demo", false), CancellationToken.None);
}

await app.RunAsync();

/// <summary>The entry point, public so that tests can host it.</summary>
public sealed partial class Program
{
    private Program()
    {
    }
}

using System.Text.RegularExpressions;
using ArchUnitNET.Loader;
using ArchUnitNET.xUnitV3;
using Remedos.Core.Logs;
using Remedos.Data;
using static ArchUnitNET.Fluent.ArchRuleDefinition;
using static ArchUnitNET.Fluent.Slices.SliceRuleDefinition;
using Assembly = System.Reflection.Assembly;

namespace Remedos.Architecture.Tests;

/// <summary>Who may know whom.</summary>
public sealed class HouseTests
{
    private static readonly Assembly Core = typeof(Log).Assembly,
        Data = typeof(RemedosContext).Assembly,
        Server = typeof(Program).Assembly;

    private static readonly ArchUnitNET.Domain.Architecture House = new ArchLoader().LoadAssemblies(Core, Data, Server).Build();

    [Fact]
    public void Core_references_the_base_library_and_MathNet_alone() =>
        Assert.All(Core.GetReferencedAssemblies(), name =>
            Assert.True(
                name.Name!.StartsWith("System.", StringComparison.Ordinal) || name.Name is "System" or "netstandard" or "MathNet.Numerics",
                $"Core references {name.Name}"
            )
        );

    [Fact]
    public void Data_knows_Core_and_nobody_knows_Server()
    {
        Assert.DoesNotContain(Data.GetReferencedAssemblies(), name =>
            name.Name!.StartsWith("Remedos.", StringComparison.Ordinal) && name.Name != "Remedos.Core"
        );
        Assert.DoesNotContain(Core.GetReferencedAssemblies(), name => name.Name!.StartsWith("Remedos.", StringComparison.Ordinal));
        Assert.DoesNotContain(Assembly.Load("remedos").GetReferencedAssemblies(), name => name.Name == "Remedos.Server");
    }

    [Fact]
    public void No_folder_of_Core_knows_one_that_knows_it() => Slices().Matching("Remedos.Core.(*)").Should().BeFreeOfCycles().Check(House);

    /// <summary>Time and randomness come in as parameters; files and consoles belong to whoever calls.</summary>
    [Theory]
    [InlineData("^System\\.IO\\.(File|FileInfo|Directory|DirectoryInfo|FileStream)$")]
    [InlineData("^System\\.(Console|Environment|TimeProvider)$")]
    [InlineData("^System\\.Diagnostics\\.(Stopwatch|Process)$")]
    [InlineData("^System\\.Net\\..*")]
    public void Core_touches_no_file_clock_console_or_network(string forbidden) =>
        Types()
            .That()
            .ResideInAssembly(Core)
            .Should()
            .NotDependOnAnyTypesThat()
            .HaveFullNameMatching(forbidden)
            .WithoutRequiringPositiveResults()
            .Check(House);

    [Theory]
    [InlineData("System.DateTime", "get_Now")]
    [InlineData("System.DateTime", "get_UtcNow")]
    [InlineData("System.DateTimeOffset", "get_Now")]
    [InlineData("System.DateTimeOffset", "get_UtcNow")]
    [InlineData("System.Random", "get_Shared")]
    public void Core_asks_no_clock_and_rolls_no_dice(string type, string member)
    {
        IEnumerable<string> calls = House
            .Types.Where(t => t.Assembly.Name.StartsWith("Remedos.Core", StringComparison.Ordinal))
            .SelectMany(t => t.Dependencies.OfType<ArchUnitNET.Domain.Dependencies.MethodCallDependency>())
            .Where(call => call.TargetMember.FullName.Contains($"{type}::{member}", StringComparison.Ordinal))
            .Select(call => call.OriginMember.FullName);
        Assert.Empty(calls);
    }

    [Fact]
    public void A_feature_of_the_server_stands_under_a_name_of_its_own() =>
        Assert.All(
            Server.GetTypes().Where(t => t.Namespace is { } name && name.StartsWith("Remedos.Server", StringComparison.Ordinal)),
            type =>
                Assert.Contains(
                    type.Namespace!.Split('.').ElementAtOrDefault(2),
                    new[]
                    {
                        "Airflow",
                        "Backups",
                        "Bays",
                        "Bundles",
                        "Coolers",
                        "Demo",
                        "Diagnosis",
                        "Files",
                        "Hosting",
                        "Jobs",
                        "Options",
                        "Owners",
                        "Parts",
                        "People",
                        "Photos",
                        "Planning",
                        "Practice",
                        "Queue",
                        "Rechecks",
                        "Records",
                        "Repair",
                        "Reports",
                        "Runs",
                        "Session",
                        "Settings",
                        "Writing",
                    }
                )
        );

    /// <summary>A temperature in a sentence goes through the unit of whoever is told; firmware alone speaks °C to everybody.</summary>
    [Fact]
    public void No_sentence_carries_a_temperature_past_its_unit()
    {
        string[] ofFirmware = ["StepWords.cs", "RepairFactsOf.cs", "Steer.tsx", "SteeringCurve.tsx"];
        Assert.Equal(
            ofFirmware.Order(),
            new[] { Path.Combine("src", "Remedos.Core"), Path.Combine("src", "Remedos.Server"), Path.Combine("web", "src") }
                .SelectMany(FilesOf)
                .Where(file => Path.GetExtension(file) is ".cs" or ".ts" or ".tsx" && !file.Contains(".test.", StringComparison.Ordinal))
                .Where(file => Regex.IsMatch(File.ReadAllText(file), @"\} °C(?!/W)"))
                .Select(file => Path.GetFileName(file))
                .Order()
        );
    }

    /// <summary>Each item of the safety table names tests that are there, or its reason.</summary>
    [Fact]
    public void What_guards_an_item_of_safety_is_there_or_its_reason_is()
    {
        string[] rows = [.. File.ReadLines(Path.Combine(Root, "docs", "asvs.md")).Where(line => Regex.IsMatch(line, @"^\| \d"))];
        HashSet<string> tests = [.. FilesOf("tests").Concat(FilesOf(Path.Combine("web", "src"))).Select(file => Path.GetFileName(file))];
        Assert.True(rows.Length > 150, $"{rows.Length} items.");
        Assert.All(rows, row =>
        {
            string last = row.Split('|')[3];
            Assert.False(string.IsNullOrWhiteSpace(last), row);
            foreach (Match name in Regex.Matches(last, @"`([A-Za-z]+Tests|[a-z]+\.(spec|test)\.tsx?)`"))
            {
                string file = name.Groups[1].Value;
                Assert.True(tests.Contains(file) || tests.Contains($"{file}.cs"), $"{file} of: {row}");
            }
        });
    }

    /// <summary>Where the sources lie.</summary>
    private static string Root { get; } = Found(new DirectoryInfo(AppContext.BaseDirectory)).FullName;

    private static DirectoryInfo Found(DirectoryInfo from) =>
        Directory.Exists(Path.Combine(from.FullName, "docs")) ? from : Found(from.Parent!);

    private static IEnumerable<string> FilesOf(string folder) =>
        Directory
            .EnumerateFiles(Path.Combine(Root, folder), "*", SearchOption.AllDirectories)
            .Where(file => !Regex.IsMatch(file, @"[\\/](node_modules|bin|obj)[\\/]"));
}

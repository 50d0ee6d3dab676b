using System.Text.Json;
using Remedos.Core.Logs;
using Remedos.Core.Runs;

namespace Remedos.Core.Tests.Logs;

public sealed class TidyLogTests
{
    public static TheoryData<string, string> Files() => DialectTests.Files();

    [Theory]
    [MemberData(nameof(Files))]
    public void A_tidy_log_reads_back_to_the_same_result(string folder, string name)
    {
        Log original = Example.Read(Example.Find(folder, name)).Log!;
        using StringWriter text = new();
        TidyLog.Write(original, text);
        Log tidy = Example.ReadText(text.ToString()).Log!;

        Assert.Equal(original.TimeSeconds, tidy.TimeSeconds);
        Channel[] channels = [.. original.Channels.Where(c => c.Role != ChannelRole.Time)];
        Assert.Equal(channels.Select(c => (c.Role, c.Unit, c.Samples)), tidy.Channels.Skip(1).Select(c => (c.Role, c.Unit, c.Samples)));
        RunConditions conditions = new(FanPolicy: "fixed", AmbientC: 22, TemperatureLimitC: 95, CoolerKind: "tower");
        Assert.Equal(Figures(original), Figures(tidy));

        string Figures(Log log)
        {
            RunAnalysis run = RunAnalyzer.Analyze(log, conditions);
            return JsonSerializer.Serialize(
                new
                {
                    run.Phases,
                    run.Idle,
                    run.Load,
                    run.Resistance,
                    run.Limits,
                    run.Recovery,
                    run.HeatPath,
                    run.Staircase,
                    run.Flow,
                }
            );
        }
    }

    [Fact]
    public void Every_role_is_known_again_by_its_own_name() =>
        Assert.All(Enum.GetValues<ChannelRole>().Where(role => role is not (ChannelRole.Other or ChannelRole.Time)), role =>
            Assert.Equal(
                role,
                RoleGuess.Of(ChannelName.Parse(role.Name(), role.Unit() is { Canonical: "C" } ? "°C" : role.Unit()?.Canonical)).Role
            )
        );
}

using Remedos.Core.Bays;
using Remedos.Core.Logs;
using Remedos.Core.Machines;

namespace Remedos.Core.Tests.Bays;

/// <summary>Hands on a simulated machine do to it what they would do to a real one.</summary>
public sealed class SimulatedBayTests
{
    private static readonly BenchHands Bare = new();

    private static SimulatedBay Bay(string machine, params (string Id, double Severity)[] faults) =>
        new(MachineLibrary.Rows.Single(row => row.Id == machine), faults.ToDictionary(fault => fault.Id, fault => fault.Severity), seed: 3);

    private static double ChipAfter(SimulatedBay bay, int seconds, BenchOrder order, BenchHands? hands)
    {
        bay.Obey(order, hands);
        double[] chip = [.. Enumerable.Range(0, seconds).Select(_ => bay.Second().ChipC ?? double.NaN)];
        return chip[^30..].Average();
    }

    [Fact]
    public void A_panel_that_comes_off_helps_a_case_that_starves()
    {
        SimulatedBay bay = Bay("home-tower", ("case-starved", 1));
        double closed = ChipAfter(bay, 1500, new BenchOrder(1), Bare),
            off = ChipAfter(bay, 900, new BenchOrder(1), Bare with { PanelOff = true });
        Assert.True(off < closed - 3, $"{closed:0.0} closed, {off:0.0} with the panel off");
        Assert.Equal(off, ChipAfter(bay, 200, new BenchOrder(1, PanelOff: true), Bare), 2.0);
    }

    /// <summary>
    /// Lifted it is switched off and shows its paste; mounted again it has new paste, and what was wrong with the mount is gone.
    /// </summary>
    [Theory]
    [InlineData("paste-aged", "dry")]
    [InlineData("poor-contact", "ring")]
    public void A_cooler_that_was_lifted_has_new_paste(string fault, string print)
    {
        SimulatedBay bay = Bay("home-tower", (fault, 0.9));
        double before = ChipAfter(bay, 900, new BenchOrder(1), Bare);
        bay.Obey(new BenchOrder(0), Bare with { Cooler = BenchHands.Lifted, Instruments = [BenchHands.RoomThermometer] });
        BayReading off = bay.Second();
        Assert.Equal([ChannelRole.AmbientTemperature], off.Values.Keys.Select(channel => channel.Role));
        Assert.Contains(print, Assert.Single(bay.TakeNotes()), StringComparison.Ordinal);
        double after = ChipAfter(bay, 900, new BenchOrder(1), Bare);
        Assert.Contains("mounted again", Assert.Single(bay.TakeNotes()), StringComparison.Ordinal);
        Assert.True(after < before - 5, $"{before:0.0} before, {after:0.0} after");
        Assert.True(bay.Second().Seconds > 1800);
    }

    [Fact]
    public void Another_cooler_can_be_mounted_and_one_that_is_not_there_cannot()
    {
        SimulatedBay bay = Bay("bakery-till");
        double own = ChipAfter(bay, 900, new BenchOrder(1), Bare);
        string larger = MachineLibrary.Coolers.Where(cooler => cooler.Part.Kind == "dual-tower").Select(cooler => cooler.Id).First();
        double with = ChipAfter(bay, 900, new BenchOrder(1), Bare with { Cooler = larger });
        Assert.True(with < own - 3, $"{own:0.0} with its own, {with:0.0} with the larger");
        bay.Obey(new BenchOrder(0), Bare with { Cooler = "teapot" });
        Assert.Contains(bay.TakeNotes(), note => note.Contains("no cooler “teapot”", StringComparison.Ordinal));
    }

    [Fact]
    public void Carried_into_a_cold_room_it_stays_warm_for_a_while_and_then_is_cooler_by_as_much()
    {
        SimulatedBay bay = Bay("home-tower");
        BenchHands with = new(Instruments: [BenchHands.RoomThermometer]);
        double here = ChipAfter(bay, 2400, new BenchOrder(0.5, FanPercent: 70), with);
        bay.Obey(new BenchOrder(0.5, FanPercent: 70), with with { RoomC = 5 });
        BayReading first = bay.Second();
        Assert.Equal(5, first.Of(ChannelRole.AmbientTemperature)!.Value, 1.0);
        Assert.Equal(here, first.ChipC!.Value, 3.0);
        double room = MachineLibrary.Machines.Single(machine => machine.Id == "home-tower").RoomC;
        Assert.Equal(here - (room - 5), ChipAfter(bay, 6000, new BenchOrder(0.5, FanPercent: 70), with with { RoomC = 5 }), 1.5);
    }

    [Fact]
    public void Instruments_read_only_while_they_are_held_to_it()
    {
        SimulatedBay bay = Bay("small-radiator");
        bay.Obey(new BenchOrder(1), Bare);
        Enumerable.Range(0, 600).ToList().ForEach(_ => bay.Second());
        BayReading without = bay.Second();
        Assert.Null(without.Of(ChannelRole.SoundLevel) ?? without.Of(ChannelRole.AmbientTemperature));
        bay.Obey(new BenchOrder(1), new BenchHands(Instruments: BenchHands.AllInstruments));
        BayReading held = bay.Second();
        Assert.InRange(held.Of(ChannelRole.SoundLevel)!.Value, 20, 60);
        Assert.True(held.Of(ChannelRole.TubeOutTemperature) > held.Of(ChannelRole.TubeReturnTemperature));
    }

    [Fact]
    public void Equal_hands_and_seed_give_equal_readings()
    {
        double[] Run()
        {
            SimulatedBay bay = Bay("boat-station", ("loop-restricted", 0.5));
            bay.Obey(new BenchOrder(1, LoadKind.Bursty), new BenchHands(PanelOff: true));
            return [.. Enumerable.Range(0, 120).Select(_ => bay.Second().ChipC!.Value)];
        }

        Assert.Equal(Run(), Run());
    }
}

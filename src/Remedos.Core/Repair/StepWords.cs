using Remedos.Core.Matching;

namespace Remedos.Core.Repair;

/// <summary>What stands in a step's braces, for this machine.</summary>
internal static class StepWords
{
    private static readonly Dictionary<string, string> KindWords = new(StringComparer.Ordinal)
    {
        ["down-draught"] = "the flat cooler",
        ["tower"] = "the tower",
        ["dual-tower"] = "the dual tower",
        ["liquid"] = "the block",
        ["passive"] = "the fanless cooler",
    };

    public static Dictionary<string, string> Of(RepairFacts facts, SocketPattern? socket, PasteAmount? paste)
    {
        NewCooler? on = facts.CoolerOn;
        string? kind = on?.Kind ?? facts.CoolerOff;
        return new(StringComparer.Ordinal)
        {
            ["off"] = KindWords.GetValueOrDefault(facts.CoolerOff ?? "", "the cooler"),
            ["socket"] = socket?.Id ?? "this socket",
            ["bracket"] = socket is null
                ? "Nobody has noted which socket it is: read it on its frame before anything is screwed on."
                : $"Holes {socket.AcrossMm:0.#} × {socket.AlongMm:0.#} mm. {Sentence(socket.Reason)}",
            ["printed"] = socket?.PrintedOrder == true ? $" {socket.Id} prints it on its frame: go by that." : "",
            ["paste"] = paste?.Words ?? "a dot as large as a pea, more on a large chip",
            ["pasteHow"] =
                (
                    paste is null
                        ? "Nobody has noted how large the chip’s face is: it needs a tenth of a millimetre all over."
                        : $"{paste.VolumeMm3 / 1000:0.00} ml for a face of {socket!.SpreaderAcrossMm:0} × "
                            + $"{socket.SpreaderAlongMm:0} mm; pressure spreads it."
                ) + (facts.PastesHere is { } here && !facts.LiquidMetal ? $" On this bench: {here}" : ""),
            ["setDown"] =
                on is { Kind: "liquid" } ? "Block straight down, tubes leaving the way they lie without force."
                : on is { Turned: true } ? "Turned by a quarter: its fan on the card’s side, so that it blows upwards. Straight down."
                : kind == "dual-tower" ? "Its outer fan off first, so that the screws can be reached. Straight down."
                : "Straight down.",
            ["place"] = on?.Place ?? "case",
            ["tanks"] = on?.Place switch
            {
                "front" => "Tubes downwards where they reach, so that the air gathers in the upper tank and not in the pump.",
                "bottom" => "Under the pump a radiator leaves its air in the pump: only where nothing else takes it.",
                _ => "It sits above the pump: air gathers in it, where it does no harm.",
            },
            ["air"] = facts.Fans.Count > 0 ? $"{string.Join(", ", facts.Fans)}." : "front and bottom in, rear and top out.",
            ["airWay"] =
                (on is { Turned: true } ? "The cooler blows upwards. " : "")
                + (
                    facts.Fans.Count > 0
                        ? $"As planned: {string.Join(", ", facts.Fans)}."
                        : "In at the front and bottom, out at the rear and top; the cooler’s fan blows the same way."
                ),
            ["new"] = on?.Name ?? "the new part",
            ["pumpHeader"] = facts.PumpHeader ?? "its own header",
            ["plugs"] =
                facts.Plugs.Count > 0
                    ? string.Join(" ", facts.Plugs)
                    : "The cooler’s fan on the processor’s header, case fans on theirs. Which headers there are, nobody has noted.",
            // Firmware is read and set in °C, whatever the workshop reads.
            ["curves"] =
                facts.Curves.Count > 0
                    ? string.Join(" ", facts.Curves)
                    : "No curve is planned yet: make one on the Air page, or 30 % up to 45 °C, 60 % at 70 °C, full from 85 °C.",
            ["limit"] = facts.FirstPowerMaxC is { } most ? $"{most:0} °C" : "what it showed before",
            ["cap"] = facts.CapW is { } watts ? $": {watts:0} W" : "",
        };
    }

    private static string Sentence(string reason) => reason.EndsWith('.') ? reason : $"{reason}.";
}

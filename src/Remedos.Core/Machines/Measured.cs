namespace Remedos.Core.Machines;

/// <summary>What was measured on one machine, mm; each goes before what its part says. Null for what nobody has measured.</summary>
public sealed class Measured
{
    /// <summary>From the board's face to the side panel.</summary>
    public double? CoolerRoomMm { get; set; }

    /// <summary>From the rear wall to what stands before it at the front.</summary>
    public double? CardRoomMm { get; set; }

    /// <summary>Behind the board, at the socket.</summary>
    public double? BehindBoardMm { get; set; }

    /// <summary>From the socket's centre.</summary>
    public double? RearFromSocketMm { get; set; }

    /// <summary>From the card's slot to the floor.</summary>
    public double? SlotToBottomMm { get; set; }

    /// <summary>How thick a radiator with its fans may be, by its place.</summary>
    public double? RadiatorFrontMm { get; set; }

    /// <inheritdoc cref="RadiatorFrontMm"/>
    public double? RadiatorTopMm { get; set; }

    /// <inheritdoc cref="RadiatorFrontMm"/>
    public double? RadiatorRearMm { get; set; }

    /// <inheritdoc cref="RadiatorFrontMm"/>
    public double? RadiatorBottomMm { get; set; }

    /// <inheritdoc cref="RadiatorFrontMm"/>
    public double? RadiatorSideMm { get; set; }

    /// <summary>From the socket's centre to the first memory slot.</summary>
    public double? MemoryFromSocketMm { get; set; }

    /// <summary>From the socket's centre to the slot of the card.</summary>
    public double? FirstSlotFromSocketMm { get; set; }

    /// <summary>Of the graphics card.</summary>
    public double? CardLengthMm { get; set; }

    /// <summary>How far the card's back plate stands out of its slot.</summary>
    public double? CardBackPlateMm { get; set; }

    /// <summary>Of the card, from its slot away from the cooler.</summary>
    public double? CardThicknessMm { get; set; }

    /// <summary>The machine with what was measured on it.</summary>
    public Build On(Build build) =>
        build with
        {
            Case = OnCase(build.Case),
            Board =
                MemoryFromSocketMm is null && FirstSlotFromSocketMm is null
                    ? build.Board
                    : (build.Board ?? new BoardPart(build.Processor.Socket)) with
                    {
                        MemoryFromSocketMm = MemoryFromSocketMm ?? build.Board?.MemoryFromSocketMm,
                        FirstSlotFromSocketMm = FirstSlotFromSocketMm ?? build.Board?.FirstSlotFromSocketMm,
                    },
            // Without a card there is nothing that these would be of.
            Graphics = build.Graphics is not { } card
                ? null
                : card with
                {
                    LengthMm = CardLengthMm ?? card.LengthMm,
                    BackPlateMm = CardBackPlateMm ?? card.BackPlateMm,
                    ThicknessMm = CardThicknessMm ?? card.ThicknessMm,
                },
        };

    private CasePart? OnCase(CasePart? housing) =>
        housing is null
        && CoolerRoomMm is null
        && CardRoomMm is null
        && BehindBoardMm is null
        && RearFromSocketMm is null
        && SlotToBottomMm is null
            ? null
            : (housing ?? new CasePart()) with
            {
                MaxCoolerHeightMm = CoolerRoomMm ?? housing?.MaxCoolerHeightMm,
                MaxCardLengthMm = CardRoomMm ?? housing?.MaxCardLengthMm,
                BehindBoardMm = BehindBoardMm ?? housing?.BehindBoardMm,
                RearFromSocketMm = RearFromSocketMm ?? housing?.RearFromSocketMm,
                SlotToBottomMm = SlotToBottomMm ?? housing?.SlotToBottomMm,
                Radiators = housing?.Radiators is not { } places
                    ? null
                    : [.. places.Select(place => place with { MaxThicknessMm = ThicknessAt(place.Place) ?? place.MaxThicknessMm })],
            };

    private double? ThicknessAt(string place) =>
        place switch
        {
            "front" => RadiatorFrontMm,
            "top" => RadiatorTopMm,
            "rear" => RadiatorRearMm,
            "bottom" => RadiatorBottomMm,
            "side" => RadiatorSideMm,
            _ => null,
        };
}

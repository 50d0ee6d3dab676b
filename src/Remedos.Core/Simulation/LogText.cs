using System.Globalization;
using System.Text;

namespace Remedos.Core.Simulation;

/// <summary>Writes simulated samples as loggers write them.</summary>
public static class LogText
{
    /// <summary>A comma-separated log with elapsed seconds, or a semicolon one with date, time and decimal commas.</summary>
    /// <param name="samples">The rows.</param>
    /// <param name="startedAt">The logger's clock at the first row.</param>
    /// <param name="semicolons">Which of the two.</param>
    public static string Write(IReadOnlyList<BenchSample> samples, DateTimeOffset startedAt, bool semicolons)
    {
        StringBuilder text = new();
        text.Append(
            semicolons
                ? "Date;Time;CPU package temperature (°C);CPU package power (W);CPU clock (MHz);CPU load (%);CPU fan (RPM);Room "
                    + "temperature (°C);Case air temperature (°C)\n"
                : "Time [s],CPU package temperature [°C],CPU package power [W],CPU clock [MHz],CPU load [%],CPU fan [RPM],Room "
                    + "temperature [°C],Case air temperature [°C],CPU thermal throttling [Yes/No]\n"
        );
        foreach (BenchSample row in samples)
        {
            string[] numbers =
            [
                row.ChipC.ToString("0.0", CultureInfo.InvariantCulture),
                row.PowerW.ToString("0.00", CultureInfo.InvariantCulture),
                row.ClockMHz.ToString("0.0", CultureInfo.InvariantCulture),
                row.LoadPercent.ToString("0.0", CultureInfo.InvariantCulture),
                row.FanRpm.ToString("0", CultureInfo.InvariantCulture),
                row.RoomC.ToString("0.0", CultureInfo.InvariantCulture),
                row.CaseAirC.ToString("0.0", CultureInfo.InvariantCulture),
            ];
            if (semicolons)
            {
                DateTimeOffset at = startedAt.AddSeconds(row.Seconds);
                text.Append(at.ToString("dd.MM.yyyy;HH:mm:ss,fff", CultureInfo.InvariantCulture))
                    .Append(';')
                    .AppendJoin(';', numbers.Select(number => number.Replace('.', ',')))
                    .Append('\n');
            }
            else
            {
                text.Append(row.Seconds.ToString("0.000", CultureInfo.InvariantCulture))
                    .Append(',')
                    .AppendJoin(',', numbers)
                    .Append(row.Throttled ? ",Yes\n" : ",No\n");
            }
        }

        return text.ToString();
    }
}

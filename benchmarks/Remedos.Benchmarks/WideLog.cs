namespace Remedos.Benchmarks;

/// <summary>A wide log as a logger of many sensors writes it.</summary>
internal static class WideLog
{
    public static void Write(string path, int rows, int columns)
    {
        Random random = new(1);
        using StreamWriter text = new(path);
        text.Write("Time [s],CPU package temperature [°C],CPU package power [W],Room temperature [°C]");
        for (int column = 4; column < columns; column++)
        {
            text.Write($",Core {column - 4} clock [MHz]");
        }

        text.Write('\n');
        for (int row = 0; row < rows; row++)
        {
            bool load = row > rows / 5 && row < rows * 4 / 5;
            text.Write(
                $"{row}.0{row % 9},{(load ? 80 : 35) + random.NextDouble():0.0},{(load ? 120 : 15) + random.NextDouble():0.00},22.0"
            );
            for (int column = 4; column < columns; column++)
            {
                text.Write($",{(load ? 4500 : 1200) + (100 * random.NextDouble()):0.0}");
            }

            text.Write('\n');
        }
    }
}

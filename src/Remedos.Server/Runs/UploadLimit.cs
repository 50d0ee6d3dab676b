namespace Remedos.Server.Runs;

/// <summary>The largest log that is taken; a day at ten samples a second with a hundred columns is about half of it.</summary>
internal static class UploadLimit
{
    private const long DefaultBytes = 1L << 30;

    public static long Of(IConfiguration configuration) => configuration.GetValue("LargestLogBytes", DefaultBytes);
}

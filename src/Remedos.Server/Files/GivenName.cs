using System.Text;

namespace Remedos.Server.Files;

/// <summary>A file's name as somebody gave it, fit to be kept: no folders, no NUL, no half letters, not too long.</summary>
internal static class GivenName
{
    private const int Longest = 255;

    public static string Of(string given, string otherwise)
    {
        StringBuilder kept = new();
        foreach (Rune letter in given.Split('/', '\\')[^1].EnumerateRunes())
        {
            if (!Rune.IsControl(letter) && kept.Length + letter.Utf16SequenceLength <= Longest)
            {
                kept.Append(letter.ToString());
            }
        }

        return string.IsNullOrWhiteSpace(kept.ToString()) ? otherwise : kept.ToString();
    }
}

using Microsoft.AspNetCore.WebUtilities;
using Remedos.Core.Comparison;
using Remedos.Core.Jobs;

namespace Remedos.Server.Jobs;

/// <summary>
/// Which setups, load and subject a page looks at, as it tells with every request: the sheet that answers a change is of the same pair as
/// the one before. Nothing is stored:
/// two people can look at two pairs.
/// </summary>
public sealed class PairView(IHttpContextAccessor http)
{
    /// <summary>“reference=1&amp;compared=3&amp;load=all-core&amp;subject=graphics”, as a query is written.</summary>
    public const string Header = "Remedos-View";

    /// <summary>The same as a parameter of the address.</summary>
    public const string Parameter = "view";

    private const int LongestView = 600;

    /// <summary>What was chosen; what cannot be read is as if it had not been chosen.</summary>
    public PairChoice Choice
    {
        get
        {
            // A document that a browser opens by its address carries no header.
            string? view = http.HttpContext?.Request is { } asked
                ? asked.Headers.TryGetValue(Header, out var shown)
                    ? shown.ToString()
                    : asked.Query[Parameter].ToString()
                : null;
            if (string.IsNullOrEmpty(view) || view.Length > LongestView)
            {
                return new PairChoice();
            }

            Dictionary<string, Microsoft.Extensions.Primitives.StringValues> parts = QueryHelpers.ParseQuery(view);
            int? Number(string name) => parts.TryGetValue(name, out var text) && int.TryParse(text, out int number) ? number : null;
            string? Text(string name) => parts.TryGetValue(name, out var text) && !string.IsNullOrEmpty(text) ? text.ToString() : null;
            return new PairChoice(Number("reference"), Number("compared"), Text("load"), Subjects.Parse(Text("subject")));
        }
    }
}

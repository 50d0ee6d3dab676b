using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Remedos.Server.Writing;

/// <summary>The ways in which a request is refused, each with a sentence.</summary>
internal static partial class Refusal
{
    private const int LongestQuote = 60;

    /// <summary>What was asked cannot be.</summary>
    public static ProblemHttpResult Of(string sentence) =>
        TypedResults.Problem(Short(sentence), statusCode: StatusCodes.Status422UnprocessableEntity);

    /// <summary>What was asked cannot be, because of one field.</summary>
    public static ProblemHttpResult Of(string sentence, string field) =>
        TypedResults.Problem(Short(sentence), statusCode: StatusCodes.Status422UnprocessableEntity, extensions: [new("field", field)]);

    /// <summary>Something else has happened since.</summary>
    public static ProblemHttpResult Conflict(string sentence) =>
        TypedResults.Problem(Short(sentence), statusCode: StatusCodes.Status409Conflict);

    /// <summary>There is nothing by that name in this workshop.</summary>
    public static ProblemHttpResult None(string what) => Unknown($"There is no such {what}.");

    /// <summary>As above, in other words.</summary>
    public static ProblemHttpResult Unknown(string sentence) =>
        TypedResults.Problem(Short(sentence), statusCode: StatusCodes.Status404NotFound);

    /// <summary>What somebody sent is repeated so far that it is recognised.</summary>
    private static string Short(string sentence) => LongQuote().Replace(sentence, quote => $"“{quote.Value[1..LongestQuote]}…”");

    [GeneratedRegex("“[^”]{61,}”")]
    private static partial Regex LongQuote();
}

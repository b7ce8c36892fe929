namespace YardRelay.Service.Problems;

/// <summary>A body that is no JSON, or not of the shape that this address takes.</summary>
/// <param name="Where">Path of the member, such as <c>$.days</c>; empty where the body as a whole cannot be read.</param>
internal sealed record RequestBodyUnreadable(string Where, string Address) : ServiceProblem(
    "request.body",
    $"The body cannot be read{(Where is "" or "$" ? "" : $" at {Where}")}. Its shape for {Address} is in /openapi/v1.json.",
    400);

/// <summary>A part of the address or of the query is not of the kind that is wanted there.</summary>
internal sealed record RequestPartUnreadable() : ServiceProblem(
    "request.part",
    "A part of the address or of the query cannot be read, such as a number that is none. What each takes is in /openapi/v1.json.",
    400);

/// <summary>A text with the character NUL, which no database keeps and nobody sees.</summary>
internal sealed record TextWithNul() : ServiceProblem("request.text", "A text holds the character NUL (U+0000). Take it out.", 400);

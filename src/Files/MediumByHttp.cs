namespace YardRelay.Files;

/// <summary>
/// How a depot that is served over WebDAV speaks of its medium with whoever writes to it, beyond what RFC 4918 has. <c>docs/formats.md</c>
/// has it in full.
/// </summary>
public static class MediumByHttp
{
    /// <summary>Namespace of <see cref="Property"/>.</summary>
    public const string Namespace = "urn:yard-relay:depot";

    /// <summary>A live property of each resource: where what is read of it comes from, as <see cref="Word"/> says it.</summary>
    public const string Property = "medium";

    /// <summary>
    /// Attribute of the property, and body of the answer to a POST: until when all that was written counts. Another word than before says
    /// that something written since then did not come onto the medium, or may not have. A POST to a folder brings all that was written
    /// there, one to a file its content; 424 is the answer where the medium did not take it.
    /// </summary>
    public const string AsOf = "as-of";

    /// <summary>Header of the answer to a GET that asked for no cache: where these bytes come from.</summary>
    public const string From = "Yard-Read-From";

    /// <summary>The word for where bytes come from.</summary>
    public static string Word(ReadFrom from) => from switch
    {
        ReadFrom.Medium => "medium",
        ReadFrom.Cache => "cache",
        _ => "unknown",
    };

    /// <summary>Where bytes come from, by the word for it; what nobody knows is unknown.</summary>
    public static ReadFrom Of(string? word) => word switch
    {
        "medium" => ReadFrom.Medium,
        "cache" => ReadFrom.Cache,
        _ => ReadFrom.Unknown,
    };
}

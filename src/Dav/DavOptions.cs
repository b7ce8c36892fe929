using YardRelay.Files.Working;

namespace YardRelay.Dav;

/// <summary>What a share does with a part of a file (PUT with Content-Range).</summary>
public enum PartialPut
{
    /// <summary>Writes it where it belongs.</summary>
    Kept,

    /// <summary>Refuses it, as RFC 9110, section 14.5, asks of servers that do not know it.</summary>
    Refused,

    /// <summary>Takes it for the whole file and reports success, as some shares do.</summary>
    Mistaken,
}

/// <summary>A share: a folder served over WebDAV.</summary>
public sealed record DavOptions
{
    /// <summary>Folder that is served; made when missing.</summary>
    public required string Folder { get; init; }

    /// <summary>The system on which it lies.</summary>
    public FileSystem Files { get; init; } = FileSystem.OfThisComputer;

    /// <summary>
    /// Whether clients may ask that what they wrote be brought onto the medium, and are told what came of it and where bytes are read
    /// from, as <see cref="MediumByHttp"/> has it. False, as with any other share: nothing is promised.
    /// </summary>
    public bool Settles { get; init; }

    /// <summary>
    /// The start of this computer, in words that no other start has: what was not on the medium before it is gone. Empty: it does not tell.
    /// </summary>
    public string Boot { get; init; } = ThisComputer.Boot();

    /// <summary>Most bytes of content; null: as much as the disk holds.</summary>
    public long? QuotaBytes { get; init; }

    /// <summary>What becomes of a PUT with Content-Range.</summary>
    public PartialPut PartialPut { get; init; }

    /// <summary>
    /// Told of each request with the decoded parts of a path that it reads or changes; false: it is answered 403. Null: all may be done.
    /// </summary>
    public Func<Microsoft.AspNetCore.Http.HttpContext, IReadOnlyList<string>, bool>? May { get; init; }

    /// <summary>Name for Basic sign-in; null: none is asked for.</summary>
    public string? User { get; init; }

    /// <summary>Password for <see cref="User"/>.</summary>
    public string? Password { get; init; }

    /// <summary>Added before each answer, to behave like a share that is far away.</summary>
    public TimeSpan Delay { get; init; }

    /// <summary>
    /// Every n-th request is answered 503, unless it was so the time before, to behave like a share with bad days; 0: none.
    /// </summary>
    public int FailEvery { get; init; }

    /// <summary>
    /// Part of the requests that a seeded plan refuses (503, 429 with Retry-After), drops, serves without a reply or answers by half; 0 to
    /// 1.
    /// </summary>
    public double FaultRate { get; init; }

    /// <summary>Seed of that plan.</summary>
    public int FaultSeed { get; init; } = 1;
}

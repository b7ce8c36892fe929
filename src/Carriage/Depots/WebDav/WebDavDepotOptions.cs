using YardRelay.Files.Working;

namespace YardRelay.Carriage.Depots.WebDav;

/// <summary>How a WebDAV depot is used.</summary>
public sealed record WebDavDepotOptions
{
    /// <summary>Name to sign in with; null: the one in the address, or the one of the environment.</summary>
    public string? User { get; init; }

    /// <summary>Password of <see cref="User"/>.</summary>
    public string? Password { get; init; }

    /// <summary>The only key that the server may have, as SubjectPublicKeyInfo; null: any that this computer trusts.</summary>
    public byte[]? ServerKey { get; init; }

    /// <summary>How far it goes; null: everywhere, and with what the environment gives.</summary>
    public DepotReach? Reach { get; init; }

    /// <summary>Tries per request, the first included; 1 to 20.</summary>
    public int Tries { get; init; } = 5;

    /// <summary>Wait before the second try; doubled for each further one, up to <see cref="LongestWait"/>.</summary>
    public TimeSpan FirstWait { get; init; } = TimeSpan.FromMilliseconds(200);

    /// <summary>Longest wait between two tries.</summary>
    public TimeSpan LongestWait { get; init; } = TimeSpan.FromSeconds(5);

    /// <summary>Longest wait that a share may ask for by Retry-After; what asks for more is given up at once.</summary>
    public TimeSpan LongestAsked { get; init; } = TimeSpan.FromMinutes(10);

    /// <summary>How long a request may go without any answer once its content is sent.</summary>
    public TimeSpan AnswerWithin { get; init; } = TimeSpan.FromSeconds(100);

    /// <summary>How it waits, and what it takes time and new names from.</summary>
    public IWork Work { get; init; } = ThreadWork.Here;

    /// <summary>How long a share may take to bring what was written onto its medium.</summary>
    public TimeSpan SettleWithin { get; init; } = TimeSpan.FromMinutes(10);
}

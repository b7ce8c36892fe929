using YardRelay.Files.Working;

namespace YardRelay.Carriage.Depots.Sftp;

/// <summary>How an SFTP depot is used.</summary>
public sealed record SftpDepotOptions
{
    /// <summary>Password, or the passphrase of the key file; null: none.</summary>
    public string? Password { get; init; }

    /// <summary>Name to sign in with; null: the one in the address, or the one of the environment.</summary>
    public string? User { get; init; }

    /// <summary>Text of a private key; null: that of <see cref="KeyFile"/>.</summary>
    public string? PrivateKey { get; init; }

    /// <summary>File with a private key; null: the password alone.</summary>
    public string? KeyFile { get; init; }

    /// <summary>The server's key as <c>SHA256:…</c>, as ssh-keygen shows it; null: it must be in <see cref="KnownHosts"/>.</summary>
    public string? HostKey { get; init; }

    /// <summary>File of known hosts in OpenSSH's form; null: there is none.</summary>
    public string? KnownHosts { get; init; }

    /// <summary>How far it goes; null: everywhere.</summary>
    public DepotReach? Reach { get; init; }

    /// <summary>Tries per request, the first included; 1 to 20.</summary>
    public int Tries { get; init; } = 5;

    /// <summary>Wait before the second try; doubled for each further one, up to five seconds.</summary>
    public TimeSpan FirstWait { get; init; } = TimeSpan.FromMilliseconds(200);

    /// <summary>Who on the server's system may reach what is staged.</summary>
    public DepotModes Modes { get; init; } = DepotModes.Private;

    /// <summary>How it waits, and what it takes time and new names from.</summary>
    public IWork Work { get; init; } = ThreadWork.Here;

    /// <summary>How long a request may go without any answer.</summary>
    public TimeSpan AnswerWithin { get; init; } = TimeSpan.FromSeconds(60);

    /// <summary>What somebody was given, and nothing else; how far it goes.</summary>
    public static SftpDepotOptions Given(DepotAccess access, DepotReach reach) => new()
    {
        User = access.User,
        PrivateKey = access.PrivateKey,
        Password = access.Password,
        HostKey = access.HostKey,
        Reach = reach
    };

    /// <summary>
    /// What somebody was given, and else what the environment says: <c>YARD_DEPOT_PASSWORD</c>, <c>YARD_DEPOT_KEY</c>,
    /// <c>YARD_DEPOT_HOSTKEY</c>, and the person's own known hosts.
    /// </summary>
    public static SftpDepotOptions Of(DepotAccess access) => new()
    {
        User = access.User,
        PrivateKey = access.PrivateKey,
        Password = access.Password ?? Environment.GetEnvironmentVariable("YARD_DEPOT_PASSWORD"),
        KeyFile = Environment.GetEnvironmentVariable("YARD_DEPOT_KEY"),
        HostKey = access.HostKey ?? Environment.GetEnvironmentVariable("YARD_DEPOT_HOSTKEY"),
        KnownHosts = Path.Combine(Environment.GetFolderPath(Environment.SpecialFolder.UserProfile), ".ssh", "known_hosts"),
    };
}

using System.Net;
using Serilog.Events;
using YardRelay.Service.Clocks;

namespace YardRelay.Service;

/// <summary>What the service is told from outside; see <see cref="Settings"/>.</summary>
internal sealed record ServiceOptions
{
    /// <summary>Where it listens; several behind semicolons.</summary>
    public required string Urls { get; init; }

    /// <summary>Folder of what it keeps on this computer.</summary>
    public required string State { get; init; }

    /// <summary>Connection string. Default: SQLite in the state folder.</summary>
    public required string Database { get; init; }

    /// <summary>File of the key that opens the database's keys, on each computer that the service runs on; beside the state folder and not
    /// in it, so that a copy of the records opens nothing.</summary>
    public required string Key { get; init; }

    /// <summary>File of what was ended, which an older copy of the records must not bring back: beside the state folder, too.</summary>
    public string Ended => Beside(State, ".ended");

    /// <summary>Whether keys that this computer's key does not open are thrown away.</summary>
    public bool KeyAnew { get; init; }

    /// <summary>Name and password of the coordinator that is made in an empty database, as <c>name:password</c>.</summary>
    public string? FirstAccount { get; init; }

    /// <summary>Folder of the built-in depot; one that all processes see, where there are several. Default: depot in the state
    /// folder.</summary>
    public required string DepotFolder { get; init; }

    /// <summary>Hosts of depots to which what opens them may go in clear, or that are this computer or lie on its wire.</summary>
    public IReadOnlyList<string> DepotSecretsTo { get; init; } = [];

    /// <summary>Folders of this computer that the service opens as depots by itself; none: only its own.</summary>
    public IReadOnlyList<string> DepotFolders { get; init; } = [];

    /// <summary>File at whose end the signed heads of all ledgers are kept, once a day; null: none. On another disk, best.</summary>
    public string? HeadsFile { get; init; }

    /// <summary>Where they are mailed to, once a day; null: nowhere.</summary>
    public string? HeadsMail { get; init; }

    /// <summary>How much the log says.</summary>
    public required LogEventLevel LogLevel { get; init; }

    /// <summary>PEM file of the certificate for https addresses, with its chain; null: TLS is somebody else's.</summary>
    public string? Certificate { get; init; }

    /// <summary>PEM file of its key; null: it is in the same file.</summary>
    public string? CertificateKey { get; init; }

    /// <summary>Where people reach it, for links in mails: https://yard.example; null: as whoever asks for a link reached it.</summary>
    public string? Address { get; init; }

    /// <summary>Networks of the proxies before it, whose word on who asks, and whether in cipher, counts; none: nobody's does.</summary>
    public IReadOnlyList<IPNetwork> Proxies { get; init; } = [];

    /// <summary>Where mail goes; null: none is sent.</summary>
    public Notices.MailOptions? Mail { get; init; }

    /// <summary>Where people sign in to their own page; null: with personal links, and accounts here.</summary>
    public Persons.OrganisationOptions? Organisation { get; init; }

    /// <summary>File that says how far its clock goes ahead, for a rehearsal; null: the computer's clock.</summary>
    public string? Clock { get; init; }

    /// <summary>Reads them all.</summary>
    /// <exception cref="BadSettingException">One of them cannot be gone by.</exception>
    public static ServiceOptions Read(Settings settings)
    {
        var state = Path.GetFullPath(settings["state"] ?? "yardrelay-state");
        return new()
        {
            Urls = settings["urls"] ?? "http://127.0.0.1:8420",
            State = state,
            Database = settings["database"] ?? $"Data Source={Path.Combine(state, "yardrelay.db")}",
            Key = Path.GetFullPath(settings["key"] ?? Beside(state, ".key")),
            KeyAnew = settings["key-anew"] is "yes" or "true",
            FirstAccount = settings["first"],
            DepotFolder = Path.GetFullPath(settings["depot"] ?? Path.Combine(state, "depot")),
            HeadsFile = settings["heads-file"] is { } heads ? Path.GetFullPath(heads) : null,
            HeadsMail = HeadsTo(settings),
            LogLevel = Enum.TryParse<LogEventLevel>(settings["log"], true, out var level) ? level : LogEventLevel.Information,
            Certificate = PemFile(settings["certificate"]),
            CertificateKey = PemFile(settings["certificate-key"]),
            Address = settings["address"]?.TrimEnd('/'),
            Proxies = [.. List(settings["proxies"]).Select(Network)],
            DepotFolders = [.. List(settings["depot-folders"]).Select(Path.GetFullPath)],
            DepotSecretsTo = List(settings["depot-secrets-to"]),
            Mail = Notices.MailOptions.Read(settings),
            Organisation = Persons.OrganisationOptions.Read(settings),
            Clock = Practised(settings["clock"]),
        };
    }

    private static string? HeadsTo(Settings settings) =>
        settings["heads-mail"] is not { } to ? null
        : settings["mail"] is null ? throw new BadSettingException("'heads-mail' needs 'mail': the server that it goes through.")
        : to.Contains('@') && MimeKit.MailboxAddress.TryParse(to, out _) ? to
        : throw new BadSettingException($"'{to}' is no mail address. 'heads-mail' takes one, such as audit@kestrelbay.example.");

    private static string[] List(string? text) =>
        (text ?? "").Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries);

    private static string Beside(string folder, string end) => Path.TrimEndingDirectorySeparator(folder) + end;

    private static string? PemFile(string? file) => file is null || File.Exists(file)
        ? file
        : throw new BadSettingException($"There is no file '{file}'. 'certificate' and 'certificate-key' name PEM files.");

    private static string? Practised(string? file) => file is null || PractisedClock.Read(file) is not null
        ? file
        : throw new BadSettingException(
            $"'{file}' does not say how far the clock goes ahead. 'clock' names a file with a time span such as 2.00:30:00.");

    private static IPNetwork Network(string text) =>
        IPAddress.TryParse(text, out var one) ? new(one, one.GetAddressBytes().Length * 8)
        : IPNetwork.TryParse(text, out var network) ? network
        : throw new BadSettingException(
            $"'{text}' is no address of a proxy. 'proxies' takes addresses and networks, such as 10.0.0.4,10.1.0.0/16.");
}

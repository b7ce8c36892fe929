using Serilog.Events;

namespace YardRelay.Service;

/// <summary>What the service is told from outside: settings, environment (<c>YARD_…</c>) or command line.</summary>
/// <param name="Urls">Where it listens. Default: http://127.0.0.1:8420.</param>
/// <param name="Database">Connection string. Default: SQLite in the state folder.</param>
/// <param name="FirstAccount">Name and password of the coordinator that is made in an empty database, as <c>name:password</c>.</param>
/// <param name="DepotFolder">Folder of the built-in depot; one that all processes see, where there are several. Default: depot in the state
/// folder.</param>
/// <param name="Certificate">PEM file of the certificate for https addresses, with its chain; null: TLS is somebody else's.</param>
/// <param name="Address">Where people reach it, for links in mails: https://yard.example; null: as whoever asks for a link reached
/// it.</param>
/// <param name="Mail">Where mail goes; null: none is sent.</param>
/// <param name="Organisation">Where people sign in to their own page; null: with personal links, and accounts here.</param>
/// <param name="CertificateKey">PEM file of its key; null: it is in the same file.</param>
/// <param name="Clock">File that says how far its clock goes ahead, for a rehearsal; null: the computer's clock.</param>
internal sealed record ServiceOptions(
    string Urls, string Database, string? FirstAccount, string DepotFolder, LogEventLevel LogLevel, string? Certificate,
    string? CertificateKey, string? Address = null, Notices.MailOptions? Mail = null, Persons.OrganisationOptions? Organisation = null,
    string? Clock = null)
{
    public static ServiceOptions Read(IConfiguration configuration)
    {
        string? Get(string name) => configuration[name] ?? Environment.GetEnvironmentVariable("YARD_" + name.ToUpperInvariant());
        var state = Get("state") ?? "yardrelay-state";
        var database = Get("database");
        if (database is null)
        {
            Directory.CreateDirectory(state);
            database = $"Data Source={Path.Combine(Path.GetFullPath(state), "yardrelay.db")}";
        }
        return new(
            Get("urls") ?? "http://127.0.0.1:8420", database, Get("first"), Path.GetFullPath(Get("depot") ?? Path.Combine(state, "depot")),
            Enum.TryParse<LogEventLevel>(Get("log"), true, out var level) ? level : LogEventLevel.Information, Get("certificate"),
            configuration["certificate-key"] ?? Environment.GetEnvironmentVariable("YARD_CERTIFICATE_KEY"), Get("address")?.TrimEnd('/'),
            Notices.MailOptions.Read(Get), Persons.OrganisationOptions.Read(Get), Get("clock"));
    }
}

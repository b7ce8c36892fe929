using System.Text.Json;
using System.Text.Json.Serialization;
using YardRelay.Line.Shown;

namespace YardRelay.Line.Connections;

/// <summary>Where the command line is signed in; kept in the person's configuration folder, readable by its owner only.</summary>
/// <param name="Token">Empty: it is signed out.</param>
/// <param name="Device">What it shows when it signs in again.</param>
internal sealed record Connection(string Service, string Token, string? Refresh, string? Device = null)
{
    private static string At => Surroundings.Here.Variable("YARDLINE_CONFIG") is { Length: > 0 } given ? given
        : Path.Combine(
            Environment.GetFolderPath(Environment.SpecialFolder.ApplicationData, Environment.SpecialFolderOption.DoNotVerify),
            "yardline",
            "connection.json");

    public static Connection? Read()
    {
        if (OfEnvironment() is { } given) return given;
        return Kept() is { Token.Length: > 0 } kept ? kept : null;
    }

    /// <summary>What it shows a service when it signs in there again; null: it never did.</summary>
    public static string? DeviceAt(Uri service) => Kept() is { } kept && kept.Service == service.ToString() ? kept.Device : null;

    /// <summary>Nothing that opens anything is kept any more; what the environment gives is not ours to forget.</summary>
    public static void Forget()
    {
        if (OfEnvironment() is not null || Kept() is not { } kept) return;
        if (kept.Device is null) File.Delete(At);
        else (kept with { Token = "" }).Write();
    }

    private static Connection? Kept() =>
        File.Exists(At) ? JsonSerializer.Deserialize(File.ReadAllText(At), ConnectionShape.Default.Connection) : null;

    private static Connection? OfEnvironment()
    {
        var (service, token) = (Surroundings.Here.Variable("YARD_SERVICE"), Surroundings.Here.Variable("YARD_TOKEN"));
        return service is { Length: > 0 } && token is { Length: > 0 }
            ? new(service, token, Surroundings.Here.Variable("YARD_REFRESH"))
            : null;
    }

    public void Write()
    {
        Directory.CreateDirectory(Path.GetDirectoryName(Path.GetFullPath(At))!);
        using var file = new FileStream(At, new FileStreamOptions
        {
            Mode = FileMode.Create,
            Access = FileAccess.Write,
            UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite
        });
        JsonSerializer.Serialize(file, this, ConnectionShape.Default.Connection);
    }
}

[JsonSourceGenerationOptions(JsonSerializerDefaults.Web, WriteIndented = true)]
[JsonSerializable(typeof(Connection))]
internal sealed partial class ConnectionShape : JsonSerializerContext;

using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace YardRelay.Carriage.Trips;

/// <summary>How reports and tag files are written as JSON.</summary>
public static class TripJson
{
    /// <summary>One line each.</summary>
    public static readonly JsonSerializerOptions Lines = Make(indented: false);

    /// <summary>For people too.</summary>
    public static readonly JsonSerializerOptions Pretty = Make(indented: true);

    private static JsonSerializerOptions Make(bool indented) => new(JsonSerializerDefaults.Web)
    {
        WriteIndented = indented,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
    };
}

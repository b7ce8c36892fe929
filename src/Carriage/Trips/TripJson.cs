using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using YardRelay.Carriage.Parcels;
using YardRelay.Core.Carrying;
using YardRelay.Core.Carrying.Sources;

namespace YardRelay.Carriage.Trips;

/// <summary>
/// How reports and tag files are written as JSON. Their shapes are known when the program is built: a short trip must not begin with
/// looking at types.
/// </summary>
public static class TripJson
{
    /// <summary>One line each.</summary>
    public static readonly JsonSerializerOptions Lines = Make(indented: false);

    /// <summary>For people too.</summary>
    public static readonly JsonSerializerOptions Pretty = Make(indented: true);

    /// <summary>
    /// Writes a report or a line. By code that was made when the program was built, straight to the text:
    /// a second trip over many names is over in a second, and looking at shapes alone would take a fifth of that.
    /// </summary>
    public static string Write<T>(T value, bool indented = false)
    {
        if (TripWriters.Default.GetTypeInfo(typeof(T)) is not JsonTypeInfo<T> { SerializeHandler: { } write })
            return JsonSerializer.Serialize(value, indented ? Pretty : Lines);
        using var text = new MemoryStream();
        using (var writer = new Utf8JsonWriter(text, new JsonWriterOptions
        {
            Indented = indented,
            Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
            SkipValidation = true
        }))
            write(writer, value);
        return Encoding.UTF8.GetString(text.GetBuffer(), 0, (int)text.Length);
    }

    private static JsonSerializerOptions Make(bool indented) => new(JsonSerializerDefaults.Web)
    {
        WriteIndented = indented,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
        TypeInfoResolver = JsonTypeInfoResolver.Combine(TripShapes.Default, new DefaultJsonTypeInfoResolver()),
    };
}

/// <summary><c>yard/trip.json</c>, while a trip is under way.</summary>
/// <param name="Adopts">The folder of the depot that is being copied into the parcel; null: nothing is.</param>
internal sealed record TripBegun(int Trip, DateTimeOffset Started, string? Adopts = null);

/// <summary>A line of <c>yard/trips.jsonl</c>.</summary>
/// <param name="Found">Digest of the state in which it found the lists; null: there was none before.</param>
internal sealed record TripEnded(
    int Trip, DateTimeOffset Ended, Amount Added, Amount Kept, Amount Open, int Snags, string? Found = null);

/// <summary><c>yard/account.json</c>.</summary>
internal sealed record AccountFile(int Trip, IReadOnlyList<FolderCarried> Folders, IReadOnlyList<LeftOutBy> LeftOut);

[JsonSerializable(typeof(TripBegun))]
[JsonSerializable(typeof(TripEnded))]
[JsonSerializable(typeof(AccountFile))]
[JsonSerializable(typeof(SourceRecord))]
[JsonSerializable(typeof(Snag))]
[JsonSerializable(typeof(Displacement))]
[JsonSerializable(typeof(TripReport))]
[JsonSerializable(typeof(VerifyReport))]
[JsonSerializable(typeof(RestoreReport))]
internal sealed partial class TripShapes : JsonSerializerContext;

[JsonSourceGenerationOptions(
    JsonSerializerDefaults.Web,
    GenerationMode = JsonSourceGenerationMode.Serialization,
    Converters = [
        typeof(CamelCaseNames<SnagKind>),
        typeof(CamelCaseNames<DamageKind>),
        typeof(CamelCaseNames<SourceVerdict>),
        typeof(CamelCaseNames<DoubtKind>),
        typeof(CamelCaseNames<YardRelay.Core.Carrying.Inventories.PlaceKind>)
    ])]
[JsonSerializable(typeof(TripBegun))]
[JsonSerializable(typeof(TripEnded))]
[JsonSerializable(typeof(AccountFile))]
[JsonSerializable(typeof(SourceRecord))]
[JsonSerializable(typeof(Snag))]
[JsonSerializable(typeof(Displacement))]
[JsonSerializable(typeof(TripReport))]
[JsonSerializable(typeof(VerifyReport))]
[JsonSerializable(typeof(RestoreReport))]
[JsonSerializable(typeof(Inventory))]
[JsonSerializable(typeof(Damage))]
[JsonSerializable(typeof(AdoptReport))]
[JsonSerializable(typeof(LandingForeseen))]
[JsonSerializable(typeof(PurgeReport))]
[JsonSerializable(typeof(FoldersFound))]
internal sealed partial class TripWriters : JsonSerializerContext;

/// <summary>Names of an enumeration as they stand in reports: <c>changedWhileRead</c>.</summary>
internal sealed class CamelCaseNames<T>() : JsonStringEnumConverter<T>(JsonNamingPolicy.CamelCase) where T : struct, Enum;

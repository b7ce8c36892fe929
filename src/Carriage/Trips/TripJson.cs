using System.Text.Encodings.Web;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using YardRelay.Carriage.Parcels;
using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Trips;

/// <summary>How reports and tag files are written as JSON. Their shapes are known when the program is built: a short trip must not begin with looking at types.</summary>
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
        TypeInfoResolver = JsonTypeInfoResolver.Combine(TripShapes.Default, new DefaultJsonTypeInfoResolver()),
    };
}

/// <summary><c>yard/trip.json</c>, while a trip is under way.</summary>
internal sealed record TripBegun(int Trip, DateTimeOffset Started);

/// <summary>A line of <c>yard/trips.jsonl</c>.</summary>
internal sealed record TripEnded(int Trip, DateTimeOffset Ended, Amount Added, Amount Kept, Amount Open, int Snags);

/// <summary><c>yard/account.json</c>.</summary>
internal sealed record AccountFile(int Trip, IReadOnlyList<FolderCarried> Folders, IReadOnlyList<LeftOutBy> LeftOut);

[JsonSerializable(typeof(TripBegun))]
[JsonSerializable(typeof(TripEnded))]
[JsonSerializable(typeof(AccountFile))]
[JsonSerializable(typeof(Snag))]
[JsonSerializable(typeof(Displacement))]
[JsonSerializable(typeof(LockHolder))]
[JsonSerializable(typeof(TripReport))]
[JsonSerializable(typeof(VerifyReport))]
[JsonSerializable(typeof(RestoreReport))]
internal sealed partial class TripShapes : JsonSerializerContext;

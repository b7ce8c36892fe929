using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace YardRelay.Core.Ledger;

/// <summary>The last entry of a chain: its number and its digest. The empty chain has number 0 and 64 zeros.</summary>
public readonly record struct LedgerHead(long Number, string Sha256)
{
    /// <summary>The head of a chain without entries.</summary>
    public static readonly LedgerHead Empty = new(0, new string('0', 64));

    /// <summary><c>12:ab34…</c></summary>
    public override string ToString() => $"{Number}:{Sha256}";

    /// <summary>Reads what <see cref="ToString"/> writes.</summary>
    public static LedgerHead? TryParse(string? text)
    {
        var parts = text?.Trim().Split(':') ?? [];
        return parts.Length == 2
            && long.TryParse(parts[0], NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            && parts[1].Length == 64
            && parts[1].All(char.IsAsciiHexDigitLower)
            ? new(number, parts[1])
            : null;
    }
}

/// <summary>One entry: its canonical JSON, and the SHA-256 of that text.</summary>
public sealed record LedgerEntry(long Number, string Json, string Sha256)
{
    /// <summary>What its text says; null: it is no JSON.</summary>
    public JsonNode? Read()
    {
        try
        {
            return JsonNode.Parse(Json);
        }
        catch (JsonException)
        {
            return null;
        }
    }
}

/// <summary>What is wrong with a ledger, and at which number.</summary>
public sealed record LedgerFault(long Number, string What);

/// <summary>The append-only, hash-chained history of a refresh.</summary>
public static class LedgerChain
{
    /// <summary>The next entry after <paramref name="head"/>.</summary>
    /// <param name="data">Ids, amounts and salted digests only; no names.</param>
    public static LedgerEntry Next(LedgerHead head, string refresh, DateTimeOffset at, string by, string kind, JsonObject data)
    {
        var json = CanonicalJson.Of(new JsonObject
        {
            ["refresh"] = refresh,
            ["number"] = head.Number + 1,
            ["at"] = at.UtcDateTime.ToString("yyyy-MM-ddTHH:mm:ss.ffffffZ", CultureInfo.InvariantCulture),
            ["by"] = by,
            ["kind"] = kind,
            ["data"] = data,
            ["before"] = head.Sha256,
        });
        return new(head.Number + 1, json, Digest(json));
    }

    /// <summary>SHA-256 of the text's UTF-8, lower-case hexadecimal.</summary>
    public static string Digest(string json) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(json)));

    /// <summary>The digest that stands in an entry for a text kept beside it.</summary>
    public static string Salted(string salt, string text) => Digest(salt + "\n" + text);

    /// <summary>
    /// Finds a changed, missing or reordered entry, and, against a head kept outside, a tail that was cut off or replaced.
    /// </summary>
    public static IReadOnlyList<LedgerFault> Check(IEnumerable<LedgerEntry> entries, LedgerHead? kept)
    {
        var faults = new List<LedgerFault>();
        var head = LedgerHead.Empty;
        var keptSeen = kept is null or { Number: 0 };
        foreach (var entry in entries)
        {
            if (entry.Number != head.Number + 1)
                faults.Add(new(
                    entry.Number,
                    entry.Number > head.Number + 1
                        ? $"{(entry.Number == head.Number + 2
                            ? $"entry {head.Number + 1} is"
                            : $"entries {head.Number + 1} to {entry.Number - 1} are")} missing before it."
                        : "it stands out of order."));
            var digest = Digest(entry.Json);
            if (digest != entry.Sha256) faults.Add(new(entry.Number, "its text was changed: the digest beside it is another."));
            try
            {
                var json = JsonNode.Parse(entry.Json);
                if ((long?)json?["number"] != entry.Number) faults.Add(new(entry.Number, $"its text says number {json?["number"]}."));
                if (entry.Number == head.Number + 1 && (string?)json?["before"] != head.Sha256)
                    faults.Add(new(entry.Number, "it does not follow from the entry before it: one of the two was changed or replaced."));
            }
            catch (Exception wrong) when (wrong is JsonException or InvalidOperationException or FormatException)
            {
                faults.Add(new(entry.Number, "its text is not an entry."));
            }
            head = new(entry.Number, digest);
            if (kept is { } k && k.Number == entry.Number)
            {
                keptSeen = true;
                if (k.Sha256 != digest)
                    faults.Add(new(entry.Number, "it is not the entry whose head was kept: the chain up to here was replaced."));
            }
        }
        if (!keptSeen)
            faults.Add(new(
                kept!.Value.Number,
                $"the chain ends at {head.Number}, and the head that was kept is {kept.Value.Number}: its tail was cut off."));
        return faults;
    }
}

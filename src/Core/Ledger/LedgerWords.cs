using System.Text.Json.Nodes;

namespace YardRelay.Core.Ledger;

/// <summary>An entry with what stands beside it for people.</summary>
/// <param name="Words">What happened.</param>
/// <param name="By">Who did it, as they are shown.</param>
/// <param name="Account">Name of the account that did it; null: none, or it was not kept yet.</param>
/// <param name="Salt">Of the digests in the entry; empty: erased, with what it was for.</param>
public sealed record ToldEntry(LedgerEntry Entry, string Words, string By, string? Account, string Salt);

/// <summary>Compares what stands beside a chain with the digests in it.</summary>
public static class LedgerWords
{
    /// <summary>What an entry says was erased: numbers of the entries whose words went.</summary>
    public const string ErasedEntries = "entries";

    /// <summary>The kind of an entry that says so.</summary>
    public const string Erasure = "person.erased";

    /// <summary>
    /// Finds words and names that are not those of the entry, and words that are gone without an erasure that says so. Entries that are
    /// none are left to <see cref="LedgerChain.Check"/>.
    /// </summary>
    public static IReadOnlyList<LedgerFault> Check(IEnumerable<ToldEntry> entries)
    {
        var faults = new List<LedgerFault>();
        var erased = new HashSet<long>();
        // Erasures of an earlier version did not say which entries.
        var before = 0L;
        var gone = new List<long>();
        foreach (var told in entries)
        {
            if (told.Entry.Read() is not { } entry) continue;
            if ((string?)entry["kind"] == Erasure)
            {
                if (entry["data"]?[ErasedEntries] is JsonArray numbers) erased.UnionWith(numbers.Select(n => (long)n!));
                else before = told.Entry.Number;
            }
            if (told.Salt.Length == 0)
            {
                gone.Add(told.Entry.Number);
                continue;
            }
            if ((string?)entry["data"]?["words"] != LedgerChain.Salted(told.Salt, told.Words))
                faults.Add(new(told.Entry.Number, "the words beside it are not those that it was made with."));
            if ((string?)entry["by"] != LedgerChain.Salted(told.Salt, told.By))
                faults.Add(new(told.Entry.Number, $"it was not '{told.By}' who did it."));
            var account = (string?)entry["data"]?["account"];
            if (account != (told.Account is null ? null : LedgerChain.Salted(told.Salt, told.Account)))
                faults.Add(new(told.Entry.Number, $"the account that did it was not '{told.Account}'."));
        }
        faults.AddRange(gone.Where(n => n > before && !erased.Contains(n))
            .Select(n => new LedgerFault(n, "its words are gone, and no erasure says so.")));
        return [.. faults.OrderBy(f => f.Number)];
    }
}

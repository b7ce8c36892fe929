using System.Security.Cryptography;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core;
using YardRelay.Core.Ledger;
using YardRelay.Records;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Privacy;

/// <summary>
/// Erases all that tells who a person is and what was theirs. What remains are the numbers of their swaps: computers, times, totals. The
/// ledger's chain stays whole, since names were never in it:
/// the words beside its entries go, and with them the salts, so that nobody can try names against what is left.
/// </summary>
internal static class Erasure
{
    /// <summary>What stands where a name stood.</summary>
    public const string Nobody = "Erased person";

    private const string Gone = "(erased)";

    /// <summary>Erases, unless something still needs the data.</summary>
    public static async Task<Result<string>> EraseAsync(Change w, string swap, string reason, CancellationToken cancel)
    {
        if (await PersonRecords.OfSwapAsync(w.Db, swap, cancel) is not { } records) return ServiceProblem.NotFound("swap", swap);
        // Erased twice is erased once.
        if (records.Person.ErasedAt is not null) return records.Person.Key;
        if ((await records.OpenAsync(w.Db, cancel)).Missing is { Count: > 0 } missing)
            return new ErasureOpenProblem(string.Join(" ", missing));
        var (db, ids, person) = (w.Db, records.Ids, records.Person);
        await UnusedBytes.OweAsync(db, cancel);
        var names = new Names([
            person.Name, person.Key, person.Mail ?? "", .. records.Swaps.Select(s => s.Name), .. records.Swaps.Select(s => s.RosterKey)
        ]);
        var key = $"erased-{Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(6))}";

        await db.Cargo.Where(c => ids.Contains(c.Swap)).ExecuteDeleteAsync(cancel);
        await db.Photos.Where(p => ids.Contains(p.Swap)).ExecuteDeleteAsync(cancel);
        await db.Notices.Where(n => ids.Contains(n.Swap)).ExecuteDeleteAsync(cancel);
        await db.Links.Where(l => ids.Contains(l.Swap)).ExecuteDeleteAsync(cancel);
        await db.Waits.Where(v => ids.Contains(v.Swap)).ExecuteDeleteAsync(cancel);
        await db.Exchanges.Where(x => ids.Contains(x.Asks) || ids.Contains(x.Asked)).ExecuteDeleteAsync(cancel);
        await db.Steps.Where(s => ids.Contains(s.Swap)).ExecuteUpdateAsync(
            s => s.SetProperty(x => x.Value, (string?)null).SetProperty(x => x.Reason, (string?)null), cancel);
        await db.Snags.Where(n => ids.Contains(n.Swap)).ExecuteUpdateAsync(
            s => s.SetProperty(x => x.Path, Gone).SetProperty(x => x.Reason, Gone).SetProperty(x => x.EndReason, (string?)null), cancel);
        await db.FollowUps.Where(f => ids.Contains(f.Swap)).ExecuteUpdateAsync(
            s => s.SetProperty(x => x.Words, Gone).SetProperty(x => x.Outcome, x => x.Outcome == null ? null : Gone), cancel);
        await db.Handovers.Where(h => ids.Contains(h.Swap)).ExecuteUpdateAsync(s => s.SetProperty(x => x.Note, Gone), cancel);
        await db.Detours.Where(d => ids.Contains(d.Swap)).ExecuteUpdateAsync(s => s.SetProperty(x => x.Words, Gone), cancel);
        await db.SignOffs.Where(s => ids.Contains(s.Swap)).ExecuteUpdateAsync(
            s => s.SetProperty(x => x.Saw, "").SetProperty(x => x.Drawn, (string?)null), cancel);
        await db.Orders.Where(o => ids.Contains(o.Swap)).ExecuteUpdateAsync(
            s => s.SetProperty(x => x.Words, (string?)null)
                .SetProperty(x => x.Folder, (string?)null)
                .SetProperty(x => x.Landing, (string?)null),
            cancel);
        await FoldersAsync(db, ids, cancel);
        await ActsAsync(db, ids, names, cancel);
        var entries = await LedgerAsync(db, records.Refresh.Key, ids, names, cancel);
        await TextsAsync(db, records.Refresh.Key, ids, names, key, cancel);
        // The same key is somebody else in another refresh.
        foreach (var account in (await db.Accounts.Where(a => a.Person == person.Key).ToListAsync(cancel))
            .Where(a => a.Refreshes.Contains(records.Refresh.Key)))
        {
            await db.Tokens.Where(t => t.Account == account.Name).ExecuteDeleteAsync(cancel);
            db.Accounts.Remove(account);
        }

        foreach (var row in records.Swaps)
        {
            (row.Name, row.Person, row.RosterKey, row.Room, row.Offer, row.LeftOutBecause, row.Parcel) =
                (Nobody, key, $"{key}/{row.Id}", null, null, null, null);
            (row.Free, row.Preferred, row.Accounts) = ([], [], []);
            if (row.CalledOffBecause is not null) row.CalledOffBecause = Gone;
            if (row.RestoreSkipReason is not null) row.RestoreSkipReason = Gone;
            if (row.RestoreSkippedBy is { } by && names.Has(by)) row.RestoreSkippedBy = Nobody;
            if (row.ReceiverAcceptedBy is { } acceptedBy && names.Has(acceptedBy)) row.ReceiverAcceptedBy = Nobody;
        }
        // What another swap says of them: that they receive its parcel.
        foreach (var other in await db.Swaps.Where(s => s.Refresh == records.Refresh.Key && s.Receiver == person.Key).ToListAsync(cancel))
            (other.Receiver, other.ReceiverAcceptedBy) = (key, other.ReceiverAcceptedBy is null ? null : Nobody);
        db.People.Remove(person);
        db.People.Add(new() { Refresh = records.Refresh.Key, Key = key, Name = Nobody, ErasedAt = w.Now });
        w.Note(
            LedgerWords.Erasure,
            swap,
            $"What was kept about the person of {string.Join(", ", ids)} is erased: {reason}",
            new() { [LedgerWords.ErasedEntries] = new JsonArray([.. entries.Select(n => (JsonNode)n)]) });
        await db.SaveChangesAsync(cancel);
        return key;
    }

    // The sums stay, so that the refresh's own account still holds; what the folders were called does not.
    private static async Task FoldersAsync(YardDb db, List<string> ids, CancellationToken cancel)
    {
        var rows = await db.Folders.AsNoTracking()
            .Where(f => ids.Contains(f.Swap))
            .OrderBy(f => f.Swap)
            .ThenBy(f => f.Folder)
            .ToListAsync(cancel);
        await db.Folders.Where(f => ids.Contains(f.Swap)).ExecuteDeleteAsync(cancel);
        foreach (var (i, row) in rows.Index()) row.Folder = $"Folder {i + 1}";
        db.Folders.AddRange(rows);
    }

    // Where the person did something themselves, somebody did it.
    private static async Task ActsAsync(YardDb db, List<string> ids, Names names, CancellationToken cancel)
    {
        foreach (var step in await db.Steps.Where(s => ids.Contains(s.Swap)).ToListAsync(cancel)) step.By = names.In(step.By);
        foreach (var signOff in await db.SignOffs.Where(s => ids.Contains(s.Swap)).ToListAsync(cancel))
            (signOff.By, signOff.Witness) = (names.In(signOff.By), Of(signOff.Witness));
        foreach (var followUp in await db.FollowUps.Where(f => ids.Contains(f.Swap)).ToListAsync(cancel))
            followUp.MadeBy = names.In(followUp.MadeBy);
        foreach (var snag in await db.Snags.Where(n => ids.Contains(n.Swap)).ToListAsync(cancel))
            snag.EndedBy = snag.EndedBy is { } by ? names.In(by) : null;
        foreach (var order in await db.Orders.Where(o => ids.Contains(o.Swap)).ToListAsync(cancel)) order.MadeBy = names.In(order.MadeBy);
        foreach (var old in await db.OldComputers.Where(c => ids.Contains(c.Swap)).ToListAsync(cancel))
            (old.Holder, old.Place, old.EndedTo, old.WipeEvidence) = (Of(old.Holder), Of(old.Place), Of(old.EndedTo), Of(old.WipeEvidence));
        foreach (var move in await db.Custody.Where(c =>
            db.OldComputers.Any(o => o.Refresh == c.Refresh && o.Tag == c.Tag && ids.Contains(o.Swap)))
            .ToListAsync(cancel))
            (move.Where, move.By) = (names.In(move.Where), names.In(move.By));

        string? Of(string? text) => text is null ? null : names.In(text);
    }

    // The words of the person's own entries go whole; elsewhere only entries that name them do.
    private static async Task<List<long>> LedgerAsync(YardDb db, string refresh, List<string> ids, Names names, CancellationToken cancel)
    {
        var (raw, _) = names.Forms;
        var entries = await db.Ledger.Where(l =>
            l.Refresh == refresh && (ids.Contains(l.Swap!) || raw.Any(n => l.Words.Contains(n)) || raw.Contains(l.By)))
            .ToListAsync(cancel);
        foreach (var entry in entries)
        {
            if (ids.Contains(entry.Swap!) || names.Has(entry.Words)) (entry.Words, entry.Salt) = (Gone, "");
            if (names.Has(entry.By) || (entry.Account is { } account && names.Has(account)))
                (entry.By, entry.Account, entry.Salt) = (Nobody, null, "");
        }
        return [.. entries.Where(e => e.Salt.Length == 0).Select(e => e.Number).Order()];
    }

    // Answers that are kept for repeated requests, and what a roster was before it was taken.
    private static async Task TextsAsync(YardDb db, string refresh, List<string> ids, Names names, string key, CancellationToken cancel)
    {
        var (raw, json) = names.Forms;
        List<string> all = [.. raw.Concat(json).Distinct()];
        await db.Answers.Where(a => all.Any(n => a.Body.Contains(n)) || ids.Any(i => a.Body.Contains(i))).ExecuteDeleteAsync(cancel);
        foreach (var taking in await db.Takings.Where(t => t.Refresh == refresh && all.Any(n => t.Before.Contains(n))).ToListAsync(cancel))
            taking.Before = names.In(taking.Before, key);
    }

    /// <summary>All ways in which a person is named, matched as whole words.</summary>
    private sealed class Names
    {
        private readonly List<string> _names;
        private readonly Regex _any;

        public Names(IEnumerable<string> names)
        {
            _names = [.. names.Where(n => n.Length > 1).Distinct().OrderByDescending(n => n.Length)];
            var json = _names.Select(n => JsonEncodedText.Encode(n).ToString());
            _any = new(
                $@"(?<![\w@.-])(?:{string.Join('|', _names.Concat(json).Distinct().Select(Regex.Escape))})(?![\w@-])",
                RegexOptions.CultureInvariant,
                TimeSpan.FromSeconds(5));
        }

        /// <summary>As they are, and as they stand in JSON.</summary>
        public (List<string> Raw, List<string> Json) Forms => (_names, [.. _names.Select(n => JsonEncodedText.Encode(n).ToString())]);

        public bool Has(string text) => _any.IsMatch(text);

        public string In(string text, string instead = Nobody) => _any.Replace(text, instead);
    }
}

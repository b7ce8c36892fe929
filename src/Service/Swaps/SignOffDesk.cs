using System.Globalization;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Ledger;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Checklists;
using YardRelay.Service.Facts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Swaps;

/// <summary>Signing for a part, within a change, and what a signature stands for.</summary>
internal static class SignOffDesk
{
    private const int MostDrawn = 20_000;

    public static SignOffSeen Seen(SignOffRow row) =>
        new(
            row.Part, row.By, row.At, [], null, row.Saw.Length == 0 ? "" : LedgerChain.Digest(row.Saw), SignOffPaper.StatementOf(row.Part),
            row.Witness, row.Drawn);

    public static JsonObject FactsOf(ChecklistFacts facts, IReadOnlyList<FolderAccount> account, IReadOnlyList<SnagRow> snags) =>
        SignOffPaper.FactsOf(
            facts.Template.Name,
            facts.Swap.TemplateVersion,
            facts.Steps,
            [.. account],
            [.. snags.Select(n => new SignedSnag(n.Path, n.Kind, n.End, n.EndedBy, n.EndReason))]);

    /// <summary>What is wrong with a drawn signature; null: nothing.</summary>
    public static Problem? DrawnFault(string? drawn) =>
        drawn is not null && !IsDrawing(drawn)
            ? new SignOffDrawnProblem(MostDrawn)
            : null;

    /// <summary>Signs a part off, within a change.</summary>
    /// <param name="isOwn">The person signs on their own page, without a witness.</param>
    public static async Task<Result<SignOffSeen>> SignPartAsync(
        Change w, string swap, SignOffWanted wanted, bool isOwn, TimeProvider time, CancellationToken cancel)
    {
        if (await w.Db.SignOffs.FirstOrDefaultAsync(s => s.Swap == swap && s.Part == wanted.Part, cancel) is { } signed)
            return Seen(signed);
        var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
        if (SwapFacts.Closed(row) is { } closed) return closed;
        var isPerson = wanted.Part == SignOffPart.Person;
        if (isPerson && !string.Equals(wanted.Name?.Trim(), row.Name, StringComparison.OrdinalIgnoreCase))
            return new SignerIsThePerson(row.Name);
        var snags = await w.Db.Snags.AsNoTracking().Where(n => n.Swap == swap).ToListAsync(cancel);
        // Each signs what they could see.
        if (!isOwn) snags = (await SnagNames.ReadAsync(w.Db, [swap], cancel)).Of(snags);
        var account = SwapFacts.Account(await w.Db.Folders.AsNoTracking().Where(f => f.Swap == swap).ToListAsync(cancel), snags);
        var now = (await new SwapReader(w.Db, time).ChecklistAsync(row, account, snags, cancel)).SignOffs.First(p => p.Part == wanted.Part);
        if (now.Missing.Count > 0) return new SignOffShut(swap, now.Missing);
        if (wanted.Facts is { } saw && saw != now.Facts)
            return new StaleProblem(
                $"Swap {swap} changed while you read it: an account, a step or a snag is not what you saw. Look again, then sign.", now);
        var facts = await ChecklistFacts.ReadAsync(w.Db, row, cancel);
        // Who signs is who is signed in: a technician for a person, who was there; never as the person.
        var (by, witness) = (w.By, isPerson && !isOwn ? row.Name : null);
        var paper = SignOffPaper.Write(
            FactsOf(facts, account, snags), row.Refresh, swap, row.Name, wanted.Part, by, w.Now,
            Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(16)), witness, wanted.Drawn);
        var kept = new SignOffRow
        {
            Swap = swap,
            Part = wanted.Part,
            By = by,
            At = w.Now,
            Saw = paper,
            Witness = witness,
            Drawn = wanted.Drawn
        };
        w.Db.SignOffs.Add(kept);
        row.ChecklistVersion++;
        // The person's own signature is the acceptance: the step that asks for it is done by it.
        if (isPerson && facts.Steps.FirstOrDefault(s => s.Step.Marks == Station.Accepted) is { State.IsOpen: true } look)
        {
            await w.Db.Steps.Where(s => s.Swap == swap && s.Key == look.Step.Key).ExecuteDeleteAsync(cancel);
            w.Db.Steps.Add(new() { Swap = swap, Key = look.Step.Key, State = "done", By = by, At = w.Now });
            SwapFacts.Reach(row, Station.Accepted, w.Now);
            w.WorldChanged();
        }
        w.Note(
            "swap.signed-off",
            swap,
            $"{by} signed off "
                + (isOwn ? "on their own page" : isPerson ? $"for {witness}, who was there" : $"{row.Name} as {PartText(wanted.Part)}"),
            new()
            {
                ["part"] = PartText(wanted.Part),
                ["sha256"] = LedgerChain.Digest(paper),
                ["files"] = account.Sum(f => f.Old.Files),
                ["bytes"] = account.Sum(f => f.Old.Bytes).ToString(CultureInfo.InvariantCulture)
            });
        return Seen(kept);
    }

    // Only strokes: what is drawn here is shown on pages and in papers, and must not be able to say anything else.
    private static bool IsDrawing(string path) =>
        path.Length is > 0 and <= MostDrawn
            && path[0] == 'M'
            && path.All(c => char.IsAsciiDigit(c) || c is 'M' or 'L' or ' ' or '.' or '-' or ',');

    internal static string PartText(SignOffPart part) => part.ToString().ToLowerInvariant();
}

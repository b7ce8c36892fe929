using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core.Carrying;
using YardRelay.Core.Orders;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.CarryLists;
using YardRelay.Service.Checklists;
using YardRelay.Service.Choosing;
using YardRelay.Service.Facts;
using YardRelay.Service.Orders;
using YardRelay.Service.Swaps;

namespace YardRelay.Service.Persons;

/// <summary>Reads a person's own page.</summary>
internal sealed class PersonReader(YardDb db, SwapReader reader, TimeProvider time)
{
    private const int MostSnags = 500;
    private const int MostQuestions = 50;

    /// <summary>Causes of follow-ups that a person opens themselves, and what each is called on the page.</summary>
    public static readonly IReadOnlyDictionary<string, string> Says = new Dictionary<string, string>
    {
        ["question"] = "question",
        ["time"] = "time",
        ["refusal"] = "missing",
        ["erasure"] = "erasure",
        ["folder"] = "folder"
    };

    public async Task<PersonPage> ReadAsync(SwapRow swap, CancellationToken cancel)
    {
        var refresh = await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == swap.Refresh, cancel);
        var person = await db.People.AsNoTracking().FirstOrDefaultAsync(p => p.Refresh == swap.Refresh && p.Key == swap.Person, cancel);
        var cargo = await db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel);
        var snags = await db.Snags.AsNoTracking()
            .Where(n => n.Swap == swap.Id)
            .OrderBy(n => n.End == "open" ? 0 : 1)
            .ThenBy(n => n.At)
            .Take(MostSnags)
            .ToListAsync(cancel);
        var account = SwapFacts.Account(await db.Folders.AsNoTracking().Where(f => f.Swap == swap.Id).ToListAsync(cancel), snags);
        var facts = await ChecklistFacts.ReadAsync(db, swap, cancel);
        var (_, signOffs) = await reader.ChecklistAsync(swap, account, snags, cancel);
        var causes = Says.Keys.ToList();
        var questions = await db.FollowUps.AsNoTracking()
            .Where(f => f.Swap == swap.Id && causes.Contains(f.Cause))
            .OrderByDescending(f => f.MadeAt)
            .Take(MostQuestions)
            .ToListAsync(cancel);
        var whom = swap.Technician is { } key
            ? await db.Technicians.AsNoTracking()
                .Where(t => t.Refresh == swap.Refresh && t.Key == key)
                .Select(t => t.Name)
                .FirstOrDefaultAsync(cancel)
            : null;
        var now = time.GetUtcNow();
        return new(
            swap.Name, person?.Language ?? "en", refresh.Name, refresh.Zone, now, (await reader.ListAsync([swap], cancel))[0],
            swap.OldModel, swap.NewModel,
            [.. facts.Steps.Where(s => s.Step.IsByPerson).Select(s => StepView.Of(s, swap))], KeptInventory.Of(cargo)?.Seen(now),
            swap.Kind.Stages() ? await CarryListDesk.SeenAsync(db, swap, cargo, cancel) : null,
            account,
            FolderAccount.Total([.. account]),
            [.. snags.Where(n => n.End != "retried").Select(SwapReader.Seen)], signOffs.First(s => s.Part == SignOffPart.Person),
            facts.Subject.IsSealed ? new(cargo?.PassphraseAt, cargo?.Passphrase is not null) : null,
            [.. questions.Select(q =>
                new PersonQuestion(q.Id, Says[q.Cause], OwnWords(q.Words, swap.Name), q.MadeAt, q.Outcome, q.DoneBy, q.DoneAt))],
            SwapFacts.HasParcel(swap) ? (await reader.HoldAsync(swap, cancel)).Until : null,
            whom ?? refresh.Name, swap.UrgentReadyAt, swap.RestoredAt,
            await MaySelfAsync(swap, cancel),
            await PersonBooking.ReadAsync(db, swap, refresh, now, cancel),
            person?.MailOff ?? false,
            refresh.AsksForNames ? person?.NamesAllowedAt is not null : null);
    }

    // Follow-ups say whose words they are, for technicians; the person knows.
    public static string OwnWords(string words, string name) =>
        words.StartsWith(name, StringComparison.Ordinal) && words.IndexOf(": ", StringComparison.Ordinal) is > 0 and var colon
            ? words[(colon + 2)..]
            : words;

    // Where a technician comes, the new computer is theirs until it stands at the desk.
    private async Task<List<string>> MaySelfAsync(SwapRow swap, CancellationToken cancel)
    {
        if (await db.Orders.AnyAsync(o => o.Swap == swap.Id && (o.State == OrderStates.Waiting || o.State == OrderStates.UnderWay), cancel))
            return [];
        return [.. PersonDesk.OwnOrders.Where(kind =>
            Order.Of(kind)?.ComputerOf(swap.Standing()).IsOk == true
                && (kind != OrderNames.Restore || (swap.RestoreAt is null && (swap.SwappedAt is not null || swap.Start is null))))];
    }
}

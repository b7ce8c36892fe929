using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Carrying.Inventories;
using YardRelay.Core.Checklists;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Checklists;

/// <summary>What a look at the new computer found, as a swap's record keeps it.</summary>
internal sealed record KeptNewComputer(DateTimeOffset At, IReadOnlyList<ProgramFound> Programs, long? DiskBytes, long? FreeBytes)
{
    public static KeptNewComputer? Of(CargoRow? cargo) =>
        cargo?.NewComputer is { } text ? JsonSerializer.Deserialize<KeptNewComputer>(text) : null;

    public string Write() => JsonSerializer.Serialize(this);
}

/// <summary>What surveys and accounts tell about the two computers, for automatic steps; read only where a template asks.</summary>
internal sealed record SeenOfComputers(
    SwapRow Swap, KeptInventory? Old, KeptNewComputer? New, IReadOnlyList<string> Known, bool AccountAddsUp,
    DateTimeOffset? PassphraseAt = null)
{
    private static readonly AutomaticFact[] BySurvey = [
        AutomaticFact.SignedOut, AutomaticFact.ProgramsFound, AutomaticFact.FreeDisk, AutomaticFact.PassphraseSet
    ];

    public static async Task<SeenOfComputers> ReadAsync(YardDb db, SwapRow swap, ChecklistTemplate template, CancellationToken cancel)
    {
        var facts = template.Steps.Select(s => s.Work).OfType<StepWork.Automatic>().ToList();
        var cargo = facts.Exists(f => BySurvey.Contains(f.Fact)) || template.Steps.Any(s => s.Work is StepWork.Choice { ByGrowth: true })
            ? await db.Cargo.AsNoTracking().FirstOrDefaultAsync(c => c.Swap == swap.Id, cancel)
            : null;
        var known = facts.Exists(f => f is { Fact: AutomaticFact.ProgramsFound, Programs.Count: 0 })
            ? await db.Catalogue.AsNoTracking().Where(c => c.Refresh == swap.Refresh).Select(c => c.Program).ToListAsync(cancel)
            : [];
        var addsUp = false;
        if (facts.Exists(f => f.Fact == AutomaticFact.AccountClosed))
        {
            var snags = await db.Snags.AsNoTracking().Where(n => n.Swap == swap.Id).ToListAsync(cancel);
            var account = SwapFacts.Account(await db.Folders.AsNoTracking().Where(f => f.Swap == swap.Id).ToListAsync(cancel), snags);
            addsUp = account.All(f => f.CarryAddsUp && f.Open.Files == 0)
                && !snags.Exists(n => n.End == "open")
                && (!swap.Kind.Restores() || SwapFacts.IsRestored(swap, account, snags));
        }
        return new(swap, KeptInventory.Of(cargo), KeptNewComputer.Of(cargo), known, addsUp, cargo?.PassphraseAt);
    }

    /// <summary>Since when a fact holds; null: it does not, or nobody has looked.</summary>
    public DateTimeOffset? Since(StepWork.Automatic work) => work.Fact switch
    {
        AutomaticFact.AccountClosed =>
            AccountAddsUp && Swap.StagedAt is { } staged ? Swap.Kind.Restores() ? Swap.RestoredAt : staged : null,
        // Before the change its cloud's folders are in use; and what was left out as being in a cloud is proof enough only then.
        AutomaticFact.SignedOut =>
            Old is { } old && old.At >= Swap.SwappedAt && !old.Found.Computer.Places.Any(p => p.Kind == PlaceKind.Cloud) ? old.At : null,
        AutomaticFact.ProgramsFound =>
            New is { } found && Wanted(work).All(p => found.Programs.Any(f => StepCondition.Fits(p, f.Name))) ? found.At : null,
        AutomaticFact.PassphraseSet => PassphraseAt,
        AutomaticFact.FreeDisk => New is { FreeBytes: { } free } room && free >= work.LeastGigabytes * 1_000_000_000L ? room.At : null,
        _ => throw new System.Diagnostics.UnreachableException(),
    };

    /// <summary>The answer that is proposed to a step; null: none.</summary>
    public Proposal? Propose(StepWork work) =>
        work is StepWork.Choice { ByGrowth: true } choice && Old is { Before: { } before } now
            ? Upkeep.Propose(before.Total.Bytes, now.Total.Bytes, now.At - before.At, choice.Options)
            : null;

    /// <summary>Programs that a step asks for; where it names none: what the old computer had and the catalogue knows.</summary>
    private IEnumerable<string> Wanted(StepWork.Automatic work) =>
        work.Programs.Count > 0
            ? work.Programs
            : Known.Where(k => Old?.Found.Computer.Programs.Any(p => StepCondition.Fits(k, p.Name)) == true);
}

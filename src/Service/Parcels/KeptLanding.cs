using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying.Landings;
using YardRelay.Records;
using YardRelay.Service.Facts;

namespace YardRelay.Service.Parcels;

/// <summary>A landing plan as an order keeps it.</summary>
internal sealed record OrderedLanding(LandingWanted Plan, IReadOnlyList<string> Only);

/// <summary>A swap's landing plan as the record keeps it.</summary>
internal sealed record KeptLanding(LandingWanted Plan, string? By, DateTimeOffset? At, ForeseenSeen? Foreseen)
{
    /// <summary>The plan of a swap; where nobody made one, all in its place, and first what the carry list says.</summary>
    public static KeptLanding Of(CargoRow? cargo) =>
        cargo?.Landing is { } text
            ? JsonSerializer.Deserialize<KeptLanding>(text)!
            : new(new([], [], KeptCarryList.Of(cargo).First, "beside", []), null, null, null);

    public LandingSeen Seen() => new(Plan, By, At, Foreseen);

    /// <summary>Checks a plan as a whole.</summary>
    public static Result<LandingPlan> Read(LandingWanted plan, IReadOnlyList<string> only)
    {
        var wrong = plan.Clashes.Select(c => c.Rule)
            .Append(plan.Clash)
            .Where(r => !Enum.TryParse<ClashRule>(r, true, out _) || int.TryParse(r, out _))
            .Select(r => new LandingClashProblem(r)).ToList();
        return wrong.Count > 0 ? Result<LandingPlan>.Failed(wrong) : LandingPlan.Create(
            [.. plan.Accounts.Select(m => new Landing(m.From, m.To, true)), .. plan.Folders.Select(m => new Landing(m.From, m.To))],
            only,
            plan.First,
            Enum.Parse<ClashRule>(plan.Clash, true),
            [.. plan.Clashes.Select(c => new FolderClash(c.Folder, Enum.Parse<ClashRule>(c.Rule, true)))]);
    }

    /// <summary>Keeps what a hand foresaw.</summary>
    public static async Task ForeseenAsync(YardDb db, string swap, ForeseenSeen? foreseen, CancellationToken cancel)
    {
        var cargo = await db.Cargo.FirstOrDefaultAsync(c => c.Swap == swap, cancel);
        if (cargo is null) db.Cargo.Add(cargo = new() { Swap = swap });
        cargo.Landing = JsonSerializer.Serialize(Of(cargo) with { Foreseen = foreseen });
    }
}

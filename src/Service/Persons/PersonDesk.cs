using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.FollowUps;
using YardRelay.Core.Orders;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.FollowUps;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Persons;

/// <summary>What a person may change of their own swap, by their page or by mail.</summary>
internal static class PersonDesk
{
    /// <summary>Most characters that a person says at once.</summary>
    public const int MostWords = 400;

    /// <summary>What a person may start themselves.</summary>
    public static readonly IReadOnlyList<string> OwnOrders = [OrderNames.FirstTrip, OrderNames.Restore];

    /// <summary>Languages that page and mails come in.</summary>
    public static readonly IReadOnlyList<string> Languages = ["en", "de"];

    /// <summary>Changes something of the person's own swap, and shows the page as it is then.</summary>
    public static async Task<Results<Ok<PersonPage>, ProblemHttpResult>> ChangeAsync(
        ClaimsPrincipal user,
        YardDb db,
        Writer writer,
        PersonReader reader,
        Func<Change, SwapRow, Task<Problem?>> change,
        CancellationToken cancel)
    {
        if (await PersonScope.SwapAsync(db, user, cancel) is not { } swap) return PersonScope.NoSwap.ToHttp();
        var done = await writer.WriteAsync<string>(swap.Refresh, async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap.Id, cancel);
            return await change(w, row) is { } refused ? refused : row.Id;
        }, cancel);
        if (!done.IsOk) return done.Problems.ToHttp();
        return TypedResults.Ok(await reader.ReadAsync(await db.Swaps.AsNoTracking().FirstAsync(s => s.Id == swap.Id, cancel), cancel));
    }

    /// <summary>Opens what a person says as a follow-up.</summary>
    /// <param name="cause">One of <see cref="PersonReader.Says"/>.</param>
    public static async Task<Problem?> AskAsync(Change w, SwapRow swap, string cause, string words, CancellationToken cancel)
    {
        // The same words once more, from a page that got no answer, are no second question.
        if (await w.Db.FollowUps.AnyAsync(
            f => f.Swap == swap.Id && f.Cause == cause && f.DoneAt == null && f.Words.EndsWith(words), cancel))
            return null;
        var (lead, holds) = cause switch
        {
            "refusal" => ($"{swap.Name} does not accept: ", FollowUpHold.SignOff),
            "time" => ($"The time does not suit {swap.Name}: ", FollowUpHold.Nothing),
            "folder" => ($"{swap.Name} filled a folder by hand: ", FollowUpHold.Nothing),
            "erasure" => ($"{swap.Name} asks that what is kept about them is erased: ", FollowUpHold.Nothing),
            _ => ($"{swap.Name} asks: ", FollowUpHold.Nothing)
        };
        if (await OwnerAsync(w.Db, swap, cause == "erasure", cancel) is not { } owner)
            return new PersonNobodyProblem();
        return ProblemOf(await FollowUpDesk.AddAsync(w, swap.Id, lead + words, owner, null, holds, cause, cancel));
    }

    /// <summary>Who looks after what a person says: their technician, else a coordinator.</summary>
    private static async Task<string?> OwnerAsync(YardDb db, SwapRow swap, bool byCoordinator, CancellationToken cancel) =>
        !byCoordinator
            && swap.Technician is { } technician
            && await db.Accounts.AnyAsync(a => a.Name == technician && a.Role == Roles.Technician, cancel)
            ? technician
            : await db.Accounts.Where(a => a.Role == Roles.Coordinator)
                .OrderBy(a => a.Name)
                .Select(a => a.Name)
                .FirstOrDefaultAsync(cancel);

    internal static Problem? ProblemOf<T>(Result<T> result) => result.IsOk ? null : result.Problem;
}

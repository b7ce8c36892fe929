using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Records;
using YardRelay.Service.Keeping;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Accounts;

/// <summary>The work behind <see cref="StaffGroupEndpoints"/>.</summary>
internal static class StaffGroupHandlers
{
    private const int Most = 500;
    private const int MostName = 200;

    internal static Ok<SignInDoors> Doors(ServiceOptions options) => TypedResults.Ok(options.Organisation is { } organisation
        ? new SignInDoors(organisation.Name, StaffSignIn.Path)
        : new SignInDoors(null, null));

    internal static async Task<Ok<List<StaffGroup>>> ListAsync(YardDb db, CancellationToken cancel) => TypedResults.Ok(
        (await db.StaffGroups.AsNoTracking().OrderBy(g => g.Name).Take(Most).ToListAsync(cancel))
            .ConvertAll(g => new StaffGroup(g.Name, g.Role, g.Sites, g.Refreshes)));

    internal static async Task<Results<NoContent, ProblemHttpResult>> PutAsync(
        string group, StaffGroupWanted wanted, ClaimsPrincipal user, YardDb db, StaffDesk staff, ServiceLedger ledger,
        CancellationToken cancel)
    {
        if (group.Trim() != group || group.Length is 0 or > MostName || !Visible.IsPlain(group))
            return new StaffGroupNameProblem(MostName).ToHttp();
        if (!Roles.Policies[Roles.Reads].Contains(wanted.Role)) return new StaffGroupRoleProblem(wanted.Role).ToHttp();
        foreach (var refresh in wanted.Refreshes ?? [])
            if (!await db.Refreshes.AnyAsync(r => r.Key == refresh, cancel)) return ServiceProblem.NotFound("refresh", refresh).ToHttp();
        if (await db.StaffGroups.CountAsync(g => g.Name != group, cancel) >= Most) return new StaffGroupManyProblem(Most).ToHttp();
        var row = await db.StaffGroups.FirstOrDefaultAsync(g => g.Name == group, cancel);
        var then = new StaffGroupRow
        {
            Name = group,
            Role = wanted.Role,
            Sites = [.. wanted.Sites ?? []],
            Refreshes = [.. wanted.Refreshes ?? []]
        };
        if (await ShutsOutAsync(db, user, group, then, cancel)) return new AccountIsYourOwn(user.NameOf()).ToHttp();
        await ledger.EnterAsync(db, async () =>
        {
            if (row is null) db.StaffGroups.Add(row = then);
            (row.Role, row.Sites, row.Refreshes) = (then.Role, then.Sites, then.Refreshes);
            await db.SaveChangesAsync(cancel);
            return new("staff-group.set", $"Group {group} opens: {AccountDesk.WordsOf(row.Role, row.Sites, row.Refreshes)}");
        }, cancel);
        await staff.ChangedAsync(db, group, cancel);
        return TypedResults.NoContent();
    }

    internal static async Task<Results<NoContent, ProblemHttpResult>> RemoveAsync(
        string group, ClaimsPrincipal user, YardDb db, StaffDesk staff, ServiceLedger ledger, CancellationToken cancel)
    {
        if (await ShutsOutAsync(db, user, group, null, cancel)) return new AccountIsYourOwn(user.NameOf()).ToHttp();
        var isGone = false;
        await ledger.EnterAsync(db, async () =>
        {
            isGone = await db.StaffGroups.Where(g => g.Name == group).ExecuteDeleteAsync(cancel) == 1;
            return isGone ? new("staff-group.removed", $"Group {group} opens nothing any more") : null;
        }, cancel);
        if (!isGone) return ServiceProblem.NotFound("group", group).ToHttp();
        await staff.ChangedAsync(db, group, cancel);
        return TypedResults.NoContent();
    }

    // Else nobody might be left who can do it again.
    private static async Task<bool> ShutsOutAsync(
        YardDb db, ClaimsPrincipal user, string group, StaffGroupRow? then, CancellationToken cancel)
    {
        var name = user.NameOf();
        if (await db.Accounts.AsNoTracking().FirstOrDefaultAsync(a => a.Name == name, cancel) is not { Subject: not null } own
            || !own.Groups.Contains(group)) return false;
        var others = await db.StaffGroups.AsNoTracking().Where(g => g.Name != group && own.Groups.Contains(g.Name)).ToListAsync(cancel);
        var may = StaffDesk.MayOf(then is null ? others : [.. others, then]);
        return may?.Role != Roles.Coordinator || may.Refreshes is not [];
    }
}

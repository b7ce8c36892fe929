using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Parcels;

/// <summary>The work behind <see cref="ReceiverEndpoints"/>.</summary>
internal static class ReceiverHandlers
{
    private static ServiceProblem? NoLeave(SwapRow row) =>
        row.Kind == SwapKind.Leave
            ? null
            : new ReceiverKindProblem(row.Id, row.Kind.ToString().ToLowerInvariant());

    internal static async Task<Results<Ok<ReceiverSeen>, ProblemHttpResult>> PutAsync(
        SwapId swap, ReceiverWanted wanted, Writer writer, CancellationToken cancel)
    {
        return (await writer.WriteAsync<ReceiverSeen>(swap.Refresh, async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            if (NoLeave(row) is { } wrong) return wrong;
            var (person, tag) = (wanted.Person.Trim(), wanted.Tag?.Trim() is { Length: > 0 } given ? given : null);
            if (tag?.Length > 60) return new ReceiverTagProblem();
            if (await w.Db.People.FirstOrDefaultAsync(p => p.Refresh == row.Refresh && p.Key == person, cancel) is not { } receiver)
                return new ReceiverUnknown(person, row.Refresh);
            if (person == row.Person) return new ReceiverLeaves(receiver.Name);
            if (row.Receiver == person && row.ReceiverTag == tag) return (await Receivers.ReadAsync(w.Db, row, cancel))!;
            if (row.Receiver != person) (row.ReceiverAcceptedAt, row.ReceiverAcceptedBy) = (null, null);
            (row.Receiver, row.ReceiverTag) = (person, tag);
            w.Note(
                "receiver.set",
                swap,
                $"{w.By} named {receiver.Name} to receive the parcel of {row.Name}{(tag is null ? "" : $", at {tag}")}");
            return (await Receivers.ReadAsync(w.Db, row, cancel))!;
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<ReceiverSeen>, ProblemHttpResult>> AcceptAsync(
        SwapId swap, ClaimsPrincipal user, YardDb db, Writer writer, CancellationToken cancel)
    {
        var receiver = await db.Swaps.AsNoTracking().Where(s => s.Id == swap).Select(s => new { s.Receiver }).FirstOrDefaultAsync(cancel);
        if (receiver is null) return ServiceProblem.NotFound("swap", swap).ToHttp();
        var isThemselves = receiver.Receiver is { } key
            && user.FindFirstValue("person") == key
            && user.RefreshesOf().Contains(swap.Refresh);
        if (!isThemselves && user.RoleOf() is not (Roles.Coordinator or Roles.Technician))
            return new NotYoursToAccept().ToHttp();
        return (await writer.WriteAsync<ReceiverSeen>(swap.Refresh, async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            if (NoLeave(row) is { } wrong) return wrong;
            if (row.Receiver is null)
                return new ReceiverNoneProblem(swap);
            if (row.Trips == 0)
                return new ReceiverEarlyProblem(swap);
            if (row.ReceiverAcceptedAt is not null) return (await Receivers.ReadAsync(w.Db, row, cancel))!;
            (row.ReceiverAcceptedAt, row.ReceiverAcceptedBy) = (w.Now, w.By);
            var seen = (await Receivers.ReadAsync(w.Db, row, cancel))!;
            row.ChecklistVersion++;
            w.Note(
                "receiver.accepted",
                swap,
                isThemselves
                    ? $"{seen.Name} accepted the parcel of {row.Name}"
                    : $"{w.By} wrote down that {seen.Name} accepts the parcel of {row.Name}");
            return seen;
        }, cancel)).ToHttp();
    }
}

using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
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
            : new(
                "receiver.kind",
                $"{row.Id} is a {row.Kind.ToString().ToLowerInvariant()}; only the parcel of a leave is handed to somebody else.",
                409);

    internal static async Task<Results<Ok<ReceiverSeen>, ProblemHttpResult>> PutAsync(
        string swap, ReceiverWanted wanted, Writer writer, CancellationToken cancel)
    {
        return (await writer.WriteAsync<ReceiverSeen>(SwapScope.RefreshOf(swap), async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            if (NoLeave(row) is { } wrong) return wrong;
            var (person, tag) = (wanted.Person.Trim(), wanted.Tag?.Trim() is { Length: > 0 } given ? given : null);
            if (tag?.Length > 60) return new Problem("receiver.tag", "An asset tag has at most 60 characters.");
            if (await w.Db.People.FirstOrDefaultAsync(p => p.Refresh == row.Refresh && p.Key == person, cancel) is not { } receiver)
                return new Problem(
                    "receiver.person",
                    $"Nobody with the key '{person}' is in the roster of {row.Refresh}. Add that person, or correct the key.");
            if (person == row.Person) return new Problem("receiver.person", $"{receiver.Name} is the one who leaves.");
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
        string swap, ClaimsPrincipal user, YardDb db, Writer writer, CancellationToken cancel)
    {
        var receiver = await db.Swaps.AsNoTracking().Where(s => s.Id == swap).Select(s => new { s.Receiver }).FirstOrDefaultAsync(cancel);
        if (receiver is null) return new Problem[] { ServiceProblem.NotFound("swap", swap) }.ToHttp();
        var isThemselves = receiver.Receiver is { } key && user.FindFirstValue("person") == key;
        if (!isThemselves && user.RoleOf() is not (Roles.Coordinator or Roles.Technician))
            return new Problem[]
            {
                ServiceProblem.Forbidden(
                    "Only the person who receives the parcel accepts it, or a technician or coordinator who heard them say so.")
            }.ToHttp();
        if (!isThemselves && await SwapScope.AgainstAsync(db, swap, user, cancel) is { } refusal) return new[] { refusal }.ToHttp();
        return (await writer.WriteAsync<ReceiverSeen>(SwapScope.RefreshOf(swap), async w =>
        {
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            if (NoLeave(row) is { } wrong) return wrong;
            if (row.Receiver is null)
                return new ServiceProblem("receiver.none", $"Nobody is named to receive the parcel of {swap}. Name somebody first.", 409);
            if (row.Trips == 0)
                return new ServiceProblem("receiver.early", $"Nothing of {swap} is staged yet, so there is nothing to accept.", 409);
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

using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Ids;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Persons;
using YardRelay.Service.Problems;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Privacy;

/// <summary>The work behind <see cref="PrivacyEndpoints"/>.</summary>
internal static class PrivacyHandlers
{
    private const int MostReason = 300;

    internal static async Task<Results<Ok<KeepingRules>, ProblemHttpResult>> KeepingAsync(
        RefreshKey refresh, YardDb db, CancellationToken cancel) =>
        await db.Refreshes.AsNoTracking().FirstOrDefaultAsync(r => r.Key == refresh, cancel) is { } row
            ? TypedResults.Ok(new KeepingRules(row.KeepDays, row.AsksForNames))
            : ServiceProblem.NotFound("refresh", refresh).ToHttp();

    internal static async Task<Results<Ok<KeepingRules>, ProblemHttpResult>> SetKeepingAsync(
        RefreshKey refresh, KeepingRules wanted, Writer writer, CancellationToken cancel)
    {
        if (wanted.Days is < 1 or > 3660)
            return new KeepingDaysProblem(wanted.Days).ToHttp();
        return (await writer.WriteAsync<KeepingRules>(refresh, w =>
        {
            if (w.Refresh.KeepDays != wanted.Days)
            {
                w.Refresh.KeepDays = wanted.Days;
                w.Note(
                    "keeping.set",
                    null,
                    wanted.Days is { } days
                        ? $"What is kept about people is erased {days} days after the last of their swaps is closed"
                        : "What is kept about people stays until somebody asks");
            }
            if (w.Refresh.AsksForNames != wanted.AsksForNames)
            {
                w.Refresh.AsksForNames = wanted.AsksForNames;
                w.Note(
                    "keeping.names",
                    null,
                    wanted.AsksForNames
                        ? "Names of people's files are shown to technicians only where the person allows it"
                        : "Names of people's files that did not come along are shown to technicians");
            }
            return Task.FromResult<Result<KeepingRules>>(wanted);
        }, cancel)).ToHttp();
    }

    internal static async Task<Results<Ok<KeptSeen>, ProblemHttpResult>> KeptAsync(SwapId swap, YardDb db, CancellationToken cancel) =>
        await PersonRecords.OfSwapAsync(db, swap, cancel) is { } records
            ? TypedResults.Ok(await records.SeenAsync(db, cancel))
            : ServiceProblem.NotFound("swap", swap).ToHttp();

    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> ExportAsync(
        SwapId swap, YardDb db, Writer writer, TimeProvider time, CancellationToken cancel)
    {
        if (await PersonRecords.OfSwapAsync(db, swap, cancel) is not { } records) return ServiceProblem.NotFound("swap", swap).ToHttp();
        var file = await PersonExport.WriteAsync(db, records, time.GetUtcNow(), cancel);
        await writer.WriteAsync<bool>(swap.Refresh, w =>
        {
            w.Note("person.exported", swap, $"{w.By} was given all that is kept about {records.Person.Name}");
            return Task.FromResult<Result<bool>>(true);
        }, cancel);
        return TypedResults.File(file, "application/zip", $"{swap}-person.zip");
    }

    internal static async Task<Results<Ok<KeptSeen>, ProblemHttpResult>> EraseAsync(
        SwapId swap, ErasureWanted wanted, YardDb db, Writer writer, CancellationToken cancel)
    {
        var reason = wanted.Reason?.Trim() ?? "";
        if (reason.Length is 0 or > MostReason)
            return new ErasureReasonProblem(MostReason).ToHttp();
        var done = await writer.WriteAsync<string>(swap.Refresh, w => Erasure.EraseAsync(w, swap, reason, cancel), cancel);
        if (!done.IsOk) return done.Problems.ToHttp();
        // What is still owed, the look says and makes good.
        await UnusedBytes.SettleAsync(db, cancel);
        return await KeptAsync(swap, db, cancel);
    }

    internal static async Task<Results<Ok<KeptSeen>, ProblemHttpResult>> OwnKeptAsync(
        ClaimsPrincipal user, YardDb db, CancellationToken cancel) =>
        await PersonScope.SwapAsync(db, user, cancel) is { } swap
            ? await KeptAsync(SwapId.Parse(swap.Id), db, cancel)
            : PersonScope.NoSwap.ToHttp();

    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> OwnExportAsync(
        ClaimsPrincipal user, YardDb db, Writer writer, TimeProvider time, CancellationToken cancel) =>
        await PersonScope.SwapAsync(db, user, cancel) is { } swap
            ? await ExportAsync(SwapId.Parse(swap.Id), db, writer, time, cancel)
            : PersonScope.NoSwap.ToHttp();
}

using System.Globalization;
using System.Security.Claims;
using System.Security.Cryptography;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.Ledger;
using YardRelay.Core.Swaps;
using YardRelay.Records;
using YardRelay.Service.Accounts;
using YardRelay.Service.Checklists;
using YardRelay.Service.Problems;
using YardRelay.Service.Refreshes;
using YardRelay.Service.Writing;

namespace YardRelay.Service.Swaps;

/// <summary>Signs parts of a swap off, with what the signer saw; shows the paper; opens a part again.</summary>
internal static class SignOffEndpoints
{
    private const int MostReason = 500;
    private const int MostDrawn = 20_000;

    public static void Map(IEndpointRouteBuilder routes)
    {
        routes.MapPost("/swaps/{swap}/sign-offs", SignAsync)
            .OfOwnSites()
            .RequireAuthorization(Roles.Works)
            .WithName("SignOffSwap")
            .WithSummary("Signs a part off; refused with the list of what is missing, or where the facts are others than those seen.");
        routes.MapGet("/swaps/{swap}/sign-offs/{part}/paper", PaperAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetSignOffPaper")
            .WithSummary("What was signed, as canonical JSON (RFC 8785); the ledger holds its SHA-256.");
        routes.MapGet("/swaps/{swap}/paper.pdf", PdfAsync)
            .RequireAuthorization(Roles.Reads)
            .WithName("GetSwapPdf")
            .WithSummary("The whole swap on paper, with who signed what and its digest, and a code that leads to its page.")
            .Produces(200, contentType: "application/pdf");
        routes.MapPost("/swaps/{swap}/sign-offs/{part}/reopening", ReopenAsync)
            .OfOwnSites()
            .RequireAuthorization(Roles.Works)
            .WithName("ReopenSwap")
            .WithSummary("Opens a signed part again, with a reason; signatures that rest on it are void, too. The ledger keeps both.");
    }

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

    private static async Task<Results<Ok<SignOffSeen>, ProblemHttpResult>> SignAsync(
        string swap, SignOffWanted wanted, ClaimsPrincipal user, Writer writer, TimeProvider time, CancellationToken cancel)
    {
        if (wanted.Part == SignOffPart.Coordinator && user.RoleOf() != Roles.Coordinator)
            return new Problem[] { ServiceProblem.Forbidden("Only a coordinator signs the whole swap off.") }.ToHttp();
        if (DrawnFault(wanted.Drawn) is { } fault) return new[] { fault }.ToHttp();
        if (wanted.Part != SignOffPart.Person && (wanted.Drawn is not null || wanted.Name is not null))
            return new Problem[]
            {
                new("sign-off.name", "Name and drawn signature are the person's; you sign with your own account.")
            }.ToHttp();
        return (await writer.WriteAsync<SignOffSeen>(
            SwapScope.RefreshOf(swap), w => SignPartAsync(w, swap, wanted, isOwn: false, time, cancel), cancel)).ToHttp();
    }

    /// <summary>What is wrong with a drawn signature; null: nothing.</summary>
    public static Problem? DrawnFault(string? drawn) =>
        drawn is not null && !IsDrawing(drawn)
            ? new(
                "sign-off.drawn", $"A drawn signature is the data of an SVG path of M, L and numbers, at most {MostDrawn:#,0} characters.")
            : null;

    /// <summary>Signs a part off, within a change.</summary>
    /// <param name="isOwn">The person signs on their own page, without a witness.</param>
    public static async Task<Result<SignOffSeen>> SignPartAsync(
        Writing.Writing w, string swap, SignOffWanted wanted, bool isOwn, TimeProvider time, CancellationToken cancel)
    {
        if (await w.Db.SignOffs.FirstOrDefaultAsync(s => s.Swap == swap && s.Part == wanted.Part, cancel) is { } signed)
            return Seen(signed);
        var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
        if (SwapFacts.Closed(row) is { } closed) return closed;
        var isPerson = wanted.Part == SignOffPart.Person;
        if (isPerson && !string.Equals(wanted.Name?.Trim(), row.Name, StringComparison.OrdinalIgnoreCase))
            return new Problem("sign-off.name", $"This is the swap of {row.Name}. Whoever signs writes that name.");
        var snags = await w.Db.Snags.AsNoTracking().Where(n => n.Swap == swap).ToListAsync(cancel);
        // Each signs what they could see.
        if (!isOwn) snags = (await Snags.SnagNames.ReadAsync(w.Db, [swap], cancel)).Of(snags);
        var account = SwapFacts.Account(await w.Db.Folders.AsNoTracking().Where(f => f.Swap == swap).ToListAsync(cancel), snags);
        var now = (await new SwapReader(w.Db, time).ChecklistAsync(row, account, snags, cancel)).SignOffs.First(p => p.Part == wanted.Part);
        if (now.Missing.Count > 0) return new SignOffShut(swap, now.Missing);
        if (wanted.Facts is { } saw && saw != now.Facts)
            return new StaleProblem(
                $"Swap {swap} changed while you read it: an account, a step or a snag is not what you saw. Look again, then sign.", now);
        var facts = await ChecklistFacts.ReadAsync(w.Db, row, cancel);
        var (by, witness) = isPerson ? (row.Name, isOwn ? null : w.By) : (w.By, null);
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
                + $"{(isOwn ? "on their own page" : isPerson ? $"on the device of {witness}" : $"{row.Name} as {PartText(wanted.Part)}")}",
            new()
            {
                ["part"] = PartText(wanted.Part),
                ["sha256"] = LedgerChain.Digest(paper),
                ["files"] = account.Sum(f => f.Old.Files),
                ["bytes"] = account.Sum(f => f.Old.Bytes).ToString(CultureInfo.InvariantCulture)
            });
        return Seen(kept);
    }

    private static async Task<Results<ContentHttpResult, ProblemHttpResult>> PaperAsync(
        string swap, string part, YardDb db, CancellationToken cancel) =>
        PartOf(part) is not { } which ? new Problem[] { ServiceProblem.NotFound("part", part) }.ToHttp()
        : await db.SignOffs.AsNoTracking()
            .Where(s => s.Swap == swap && s.Part == which)
            .Select(s => s.Saw)
            .FirstOrDefaultAsync(cancel) is { Length: > 0 } paper
            ? TypedResults.Content(paper, "application/json; charset=utf-8")
            : new Problem[] { new ServiceProblem("sign-off.none", $"Swap {swap} is not signed off as {PartText(which)}.", 404) }.ToHttp();

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PdfAsync(
        string swap, HttpRequest request, YardDb db, SwapReader reader, TimeProvider time, CancellationToken cancel)
    {
        if (await reader.GetAsync(swap, cancel) is not { } seen) return new Problem[] { ServiceProblem.NotFound("swap", swap) }.ToHttp();
        var refresh = SwapScope.RefreshOf(swap);
        var clock = new RefreshClock(await db.Refreshes.AsNoTracking().FirstAsync(r => r.Key == refresh, cancel));
        var page = $"{request.Scheme}://{request.Host}{request.PathBase}/swaps/{Uri.EscapeDataString(swap)}";
        return SwapPaper.TryWrite(seen, clock, time.GetUtcNow(), page).TryGet(out var pdf, out var problem)
            ? TypedResults.File(pdf, "application/pdf", $"{swap}.pdf")
            : new[] { problem }.ToHttp();
    }

    private static async Task<Results<Ok<SwapSeen>, ProblemHttpResult>> ReopenAsync(
        string swap, string part, ReopeningWanted wanted, ClaimsPrincipal user, Writer writer, SwapReader reader,
        CancellationToken cancel)
    {
        if (PartOf(part) is not { } which) return new Problem[] { ServiceProblem.NotFound("part", part) }.ToHttp();
        var reason = wanted.Reason?.Trim() ?? "";
        if (reason.Length is 0 or > MostReason)
            return new Problem[]
            {
                new("sign-off.reason", $"Say in 1 to {MostReason} characters why what was signed is opened again.")
            }.ToHttp();
        var done = await writer.WriteAsync<string>(SwapScope.RefreshOf(swap), async w =>
        {
            var voided = (await w.Db.SignOffs.Where(s => s.Swap == swap).ToListAsync(cancel)).FindAll(s => s.Part >= which);
            if (!voided.Exists(s => s.Part == which))
                return ServiceProblem.Conflict(
                    "sign-off.none", $"Swap {swap} is not signed off as {PartText(which)}, so there is nothing to open again.");
            if (voided.Exists(s => s.Part == SignOffPart.Coordinator) && user.RoleOf() != Roles.Coordinator)
                return ServiceProblem.Forbidden("The coordinator has signed the whole swap; only a coordinator opens it again.");
            var row = await w.Db.Swaps.FirstAsync(s => s.Id == swap, cancel);
            w.Db.SignOffs.RemoveRange(voided);
            row.ChecklistVersion++;
            w.Note(
                "swap.reopened",
                swap,
                $"{w.By} opened what was signed for {row.Name} as "
                    + $"{string.Join(" and ", voided.OrderBy(s => s.Part).Select(s => PartText(s.Part)))} again: {reason}",
                new()
                {
                    ["part"] = PartText(which),
                    ["void"] = new JsonArray([.. voided.OrderBy(s => s.Part).Select(s => (JsonNode)LedgerChain.Digest(s.Saw))])
                });
            return swap;
        }, cancel);
        return done.IsOk ? TypedResults.Ok((await reader.GetAsync(swap, cancel))!) : done.Problems.ToHttp();
    }

    // Only strokes: what is drawn here is shown on pages and in papers, and must not be able to say anything else.
    private static bool IsDrawing(string path) =>
        path.Length is > 0 and <= MostDrawn
            && path[0] == 'M'
            && path.All(c => char.IsAsciiDigit(c) || c is 'M' or 'L' or ' ' or '.' or '-' or ',');

    private static SignOffPart? PartOf(string text) =>
        Enum.GetValues<SignOffPart>().Cast<SignOffPart?>().FirstOrDefault(p =>
            string.Equals(p.ToString(), text, StringComparison.OrdinalIgnoreCase));

    private static string PartText(SignOffPart part) => part.ToString().ToLowerInvariant();
}

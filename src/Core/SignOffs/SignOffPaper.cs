using System.Text.Json;
using System.Text.Json.Nodes;
using YardRelay.Core.Carrying;
using YardRelay.Core.Checklists;
using YardRelay.Core.Ledger;

namespace YardRelay.Core.SignOffs;

/// <summary>A snag as a signer saw it.</summary>
/// <param name="By">Who waived it; null: nobody.</param>
public sealed record SignedSnag(string Path, SnagKind Kind, string End, string? By, string? Reason);

/// <summary>What a paper says of itself.</summary>
/// <param name="Sha256">Digest of its canonical text; the ledger has the same.</param>
public sealed record SignedPaper(string Refresh, string Swap, SignOffPart Part, string By, string At, string Sha256);

/// <summary>
/// What somebody signs: a statement, and what they saw when they signed it. Kept as canonical JSON (RFC 8785), whose SHA-256 stands in the
/// ledger.
/// <c>salt</c> keeps the digest from telling anything by itself.
/// </summary>
public static class SignOffPaper
{
    /// <summary>Names the form of the paper.</summary>
    public const string Format = "yard-relay-sign-off/1";

    /// <summary>The statement that is signed.</summary>
    public static string StatementOf(SignOffPart part) => part switch
    {
        SignOffPart.Technician =>
            "Every file is accounted for as written here, each step is done as written here or does not apply for the reason given, and "
                + "the person has the use of their computer.",
        SignOffPart.Person =>
            "I have looked. My files are there as written here, and what is named here as left out or given up stays behind.",
        SignOffPart.Coordinator => "The swap is over. What the technician signed stands, and the old computer is where it belongs.",
        _ => throw new System.Diagnostics.UnreachableException(),
    };

    /// <summary>What there is to be seen: the account, the steps, the snags.</summary>
    public static JsonObject FactsOf(
        string template,
        int version,
        IReadOnlyList<StepNow> steps,
        IReadOnlyCollection<FolderAccount> account,
        IReadOnlyList<SignedSnag> snags) => new()
        {
            ["checklist"] = template,
            ["checklistVersion"] = version,
            ["steps"] = new JsonArray([.. steps.Select(Step)]),
            ["account"] = new JsonArray([.. account.OrderBy(f => f.Folder, StringComparer.Ordinal).Select(Folder)]),
            ["snags"] = new JsonArray([.. snags.OrderBy(n => n.Path, StringComparer.Ordinal)
            .ThenBy(n => n.Kind)
            .Select(n => (JsonNode)new JsonObject
            {
                ["path"] = n.Path,
                ["kind"] = n.Kind.ToString(),
                ["end"] = n.End,
                ["by"] = n.By,
                ["reason"] = n.Reason
            })]),
        };

    /// <summary>Digest of what there is to be seen: whoever signs says which state they saw.</summary>
    public static string Sha256Of(JsonObject facts) => LedgerChain.Digest(CanonicalJson.Of(facts));

    /// <summary>The paper as canonical text.</summary>
    /// <param name="witness">Of the person's, where somebody signed for them: the person, who was there.</param>
    /// <param name="drawn">The drawn signature as the data of an SVG path; null: none was drawn.</param>
    public static string Write(
        JsonObject facts, string refresh, string swap, string person, SignOffPart part, string by, DateTimeOffset at, string salt,
        string? witness = null, string? drawn = null)
    {
        var paper = new JsonObject
        {
            ["format"] = Format,
            ["refresh"] = refresh,
            ["swap"] = swap,
            ["person"] = person,
            ["part"] = part.ToString(),
            ["statement"] = StatementOf(part),
            ["by"] = by,
            ["at"] = Instant(at),
            ["saw"] = facts.DeepClone(),
            ["salt"] = salt,
        };
        if (witness is not null) paper["witness"] = witness;
        if (drawn is not null) paper["drawn"] = drawn;
        return CanonicalJson.Of(paper);
    }

    /// <summary>Reads a paper, however it is spaced.</summary>
    public static Result<SignedPaper> Read(string text)
    {
        try
        {
            if (JsonNode.Parse(text) is JsonObject paper
                && (string?)paper["format"] == Format
                && Enum.TryParse<SignOffPart>((string?)paper["part"], out var part)
                && Enum.IsDefined(part)
                && (
                    (string?)paper["refresh"],
                    (string?)paper["swap"],
                    (string?)paper["by"],
                    (string?)paper["at"]) is ({ } refresh, { } swap, { } by, { } at))
                return new SignedPaper(refresh, swap, part, by, at, LedgerChain.Digest(CanonicalJson.Of(paper)));
        }
        catch (Exception wrong) when (wrong is JsonException or ArgumentException or InvalidOperationException)
        {
            return new PaperUnreadable(wrong.Message);
        }
        return new PaperOfAnotherForm(Format);
    }

    private static JsonObject Step(StepNow now)
    {
        var (state, by, at) = now.State switch
        {
            StepState.Done done => ("done", done.By, done.At),
            StepState.NotApplicable no => ("not-applicable", no.By, no.At),
            StepState.UnderWay going => ("under-way", going.By, going.Since),
            _ => ("open", (string?)null, (DateTimeOffset?)null),
        };
        var step = new JsonObject
        {
            ["key"] = now.Step.Key,
            ["title"] = now.Step.Title,
            ["state"] = state,
            ["by"] = by,
            ["at"] = at is { } when ? Instant(when) : null
        };
        if (now.State is StepState.Done { Value: { } value }) step["value"] = value;
        if (now.State is StepState.Done { Runs: > 0 and var runs }) step["runs"] = runs;
        if (now.State is StepState.NotApplicable { Reason: var reason }) step["reason"] = reason;
        return step;
    }

    private static JsonObject Folder(FolderAccount f)
    {
        var folder = new JsonObject
        {
            ["folder"] = f.Folder,
            ["old"] = Amount(f.Old),
            ["inDepot"] = Amount(f.InDepot),
            ["leftOut"] = Amount(f.LeftOut),
            ["waived"] = Amount(f.Waived),
            ["onNew"] = f.OnNew is { } there ? Amount(there) : null,
            ["waivedAtNew"] = Amount(f.WaivedAtNew),
        };
        if (f.Gone.Files > 0) folder["gone"] = Amount(f.Gone);
        return folder;
    }

    private static JsonObject Amount(Amount amount) =>
        new() { ["files"] = amount.Files, ["bytes"] = amount.Bytes.ToString(System.Globalization.CultureInfo.InvariantCulture) };

    private static string Instant(DateTimeOffset at) =>
        at.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.ffffff'Z'", System.Globalization.CultureInfo.InvariantCulture);
}

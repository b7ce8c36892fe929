using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Core.SignOffs;
using YardRelay.Core.Swaps;
using YardRelay.Service.Clocks;
using YardRelay.Service.Paper;

namespace YardRelay.Service.Swaps;

/// <summary>
/// A whole swap on paper, one to three pages: its line, its account, who signed what with which digest, the work that was done, the old
/// computer.
/// </summary>
internal static class SwapPaper
{
    // A signature is drawn on a pad of so many units.
    private const double PadWide = 320, PadHigh = 120;
    private const int MostSnags = 25;
    private const int MostFolders = 30;

    /// <summary>The PDF; or what the service's computer lacks for it.</summary>
    public static Result<byte[]> TryWrite(SwapSeen seen, RefreshClock clock, DateTimeOffset now, string page)
    {
        if (!Fonts.AreThere()) return Fonts.Missing;
        var swap = seen.Swap;
        string At(DateTimeOffset at) => $"{clock.Local(at):d MMM yyyy HH:mm}";
        using var sheet = new Sheet($"Swap of {swap.Name}", $"{swap.Id} · as of {At(now)} {clock.Zone}");
        sheet.Head(
            swap.Name,
            $"{swap.Id} · {swap.Kind.ToString().ToLowerInvariant()} · {swap.Site}{(swap.Room is null ? "" : $", {swap.Room}")} · "
                + $"{swap.OldTag ?? "no old computer"} → {swap.NewTag ?? "no new computer"}",
            page);
        if (swap.Appointment is { } visit)
            sheet.Paragraph(
                $"{clock.Local(visit.Start):ddd d MMM yyyy HH:mm} to {clock.Local(visit.End):HH:mm} with {visit.With}."
                    + $"{(seen.Handover is { } passed
                        ? $" Handed over by {passed.From} to {passed.To} on {At(passed.At)}: {passed.Note}"
                        : "")}");
        sheet.Table(
            [.. swap.Line.Select(l => new PaperColumn(StationText(l.Station), 1))],
            [[.. swap.Line.Select(l => l.At is { } at ? $"{clock.Local(at):d MMM HH:mm}" : "–")]]);

        sheet.Heading("Signed");
        foreach (var sign in seen.SignOffs)
        {
            if (sign.By is null)
            {
                sheet.Paragraph($"{PartText(sign.Part)}: not signed.{(sign.Missing.Count > 0 ? $" {sign.Missing[0]}" : "")}");
                continue;
            }
            sheet.Paragraph(
                $"{PartText(sign.Part)}: {sign.By}, {At(sign.At!.Value)}"
                    + $"{(sign.Witness is null ? "" : $", for {sign.Witness}, who was there")}",
                strong: true);
            sheet.Paragraph($"\u201c{sign.Statement}\u201d");
            if (sign.Drawn is { } drawn) sheet.Drawing(drawn, PadWide, PadHigh);
            sheet.Paragraph($"SHA-256 of what was signed, as the ledger holds it: {sign.Sha256}");
        }

        if (seen.Account.Count > 0)
        {
            sheet.Heading("Every file accounted for");
            sheet.Table([
                new("Folder", 3), new("Old computer", 1.2, true), new("Size", 1.1, true), new("Left out", 1, true),
                new("Waived", 0.9, true), new("Open", 0.8, true), new("In the depot", 1.2, true), new("New computer", 1.3, true)
            ],
                [.. seen.Account.OrderByDescending(f => f.Old.Files)
                    .Take(MostFolders)
                    .OrderBy(f => f.Folder, StringComparer.Ordinal)
                    .Append(seen.Total)
                    .Select(f => (IReadOnlyList<string>)[
                        f.Folder == "." ? "files beside the folders" : f.Folder,
                        Count(f.Old.Files),
                        ByteText.Of(f.Old.Bytes),
                        Count(f.LeftOut.Files),
                        Count(f.Waived.Files + f.WaivedAtNew.Files),
                        Count(f.Open.Files + f.OpenAtNew.Files),
                        Count(f.InDepot.Files),
                        f.OnNew is { } on ? Count(on.Files) : "–"
                    ])],
                lastIsTotal: true);
            if (seen.Account.Count > MostFolders)
                sheet.Paragraph($"The {MostFolders} folders with most files; the total is of all {seen.Account.Count}.");
        }
        if (seen.Snags.Where(s => s.End != "retried").ToList() is { Count: > 0 } snags)
        {
            sheet.Heading("Files that did not come");
            sheet.Table([new("File", 3), new("Why", 2.4), new("", 2.4)], [.. snags.Take(MostSnags)
                .Select(s => (IReadOnlyList<string>)[
                    s.Path, s.Reason, s.End == "open" ? "open" : $"waived by {s.EndedBy}: {s.EndReason}"
                ])]);
            if (snags.Count > MostSnags) sheet.Paragraph($"and {snags.Count - MostSnags:#,0} more; the report of the parcel names each.");
        }

        sheet.Heading($"Checklist: {seen.Checklist.Template}, version {seen.Checklist.TemplateVersion}");
        sheet.Table([new("", 0.3), new("Step", 4), new("", 2), new("By", 2)], [.. seen.Checklist.Steps.Select(s =>
            (IReadOnlyList<string>)[
                s.State switch { "done" => "✓", "not-applicable" => "–", "under-way" => "…", _ => "○" },
                s.Title,
                s.State == "not-applicable"
                    ? $"does not apply: {s.Reason}"
                    : $"{s.Value}{(s.Value is not null && s.Unit is not null ? $" {s.Unit}" : "")}{(s.Runs > 0
                        ? $" {s.Runs} {(s.Runs == 1 ? "run" : "runs")}"
                        : "")}".Trim(),
                s.At is { } at ? $"{s.By}, {clock.Local(at):d MMM HH:mm}" : ""
            ])]);

        if (seen.FollowUps is { Count: > 0 } follow)
        {
            sheet.Heading("Follow-ups");
            sheet.Table([new("What", 4), new("Who", 1.6), new("", 3)], [.. follow.Select(f =>
                (IReadOnlyList<string>)[
                    f.Words, f.OwnerName, f.DoneAt is { } done ? $"ended {At(done)}: {f.Outcome}" : $"open, due {At(f.Due)}"
                ])]);
        }
        if (seen.OldComputer is { } old)
        {
            sheet.Heading($"Old computer {old.Tag}");
            sheet.Paragraph($"{old.Words}{(old.Since is { } since ? $", since {At(since)}" : "")}.");
            sheet.Paragraph(old.Wipe is { } wipe
                ? $"{(wipe.Result == "done" ? "Wiped" : "Could not be wiped")} by {wipe.By} on {At(wipe.At)}: {wipe.Method}; "
                    + $"{wipe.Evidence}."
                : old.Missing.Count == 0
                ? $"It may be wiped.{(old.Alone ? " Nobody but its own hand has verified what was carried from it." : "")}"
                : $"Not wiped. {string.Join(' ', old.Missing)}");
        }
        return sheet.Save();

        static string Count(long number) => number == 0 ? "–" : $"{number:#,0}";
    }

    private static string PartText(SignOffPart part) => part.ToString();

    private static string StationText(Station station) => station == Station.HandedIn ? "Handed in" : station.ToString();
}

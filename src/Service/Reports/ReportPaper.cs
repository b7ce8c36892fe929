using YardRelay.Contracts;
using YardRelay.Core;
using YardRelay.Core.Carrying;
using YardRelay.Service.Clocks;
using YardRelay.Service.Paper;

namespace YardRelay.Service.Reports;

/// <summary>The report of a parcel on paper.</summary>
internal static class ReportPaper
{
    // A page holds some forty lines: who needs more names takes the table.
    private const int MostLines = 200;

    /// <summary>The PDF; or what the service's computer lacks for it.</summary>
    public static Result<byte[]> TryWrite(ParcelReport report, RefreshClock clock, string page)
    {
        if (!Fonts.AreThere()) return Fonts.Missing;
        using var sheet = new Sheet(
            $"What came along: {report.Name}",
            $"{report.Swap} · {report.Refresh} · as of {clock.Local(report.At):yyyy-MM-dd HH:mm} {clock.Zone}");
        sheet.Head(
            report.Name,
            $"{report.Swap} · {report.OldTag ?? "no old computer"} → {report.NewTag ?? "no new computer"} · {report.Refresh}",
            page);
        sheet.Paragraph(report.Words, strong: true);
        if (report.Hold is { } hold)
            sheet.Paragraph(hold.PurgedAt is { } purged
                ? $"The staged copy was purged on {clock.Local(purged):yyyy-MM-dd}."
                : hold.Until is { } until
                ? $"The staged copy is kept until {until:yyyy-MM-dd}."
                : "The staged copy is kept until the swap is signed off, and the days of the refresh after it.");
        if (report.Account.Count > 0)
        {
            sheet.Heading("Folders");
            sheet.Table([
                new("Folder", 3), new("Old computer", 1.2, true), new("Size", 1.1, true), new("In the depot", 1.2, true),
                new("New computer", 1.3, true), new("Stayed", 1, true), new("Open", 0.8, true)
            ],
                [.. report.Account.Append(report.Total).Select(f =>
                    (IReadOnlyList<string>)[
                        f.Folder == "." ? "files beside the folders" : f.Folder,
                        Count(f.Old.Files),
                        ByteText.Of(f.Old.Bytes),
                        Count(f.InDepot.Files),
                        f.OnNew is { } on ? Count(on.Files) : "–",
                        Count(f.LeftOut.Files + f.Waived.Files + f.WaivedAtNew.Files),
                        Count(f.Open.Files + f.OpenAtNew.Files)
                    ])],
                lastIsTotal: true);
        }
        if (report.Stayed.Count > 0)
        {
            sheet.Heading("What stayed behind, and why");
            sheet.Table(
                [new("Reason", 4), new("Decided by", 1.6), new("Files", 1, true), new("Size", 1, true)],
                [.. report.Stayed.Select(s =>
                    (IReadOnlyList<string>)[
                        s.Reason.Length > 0 ? s.Reason : s.What, s.By ?? "a rule", s.Files is { } n ? Count(n.Files) : "",
                        s.Files is { } b ? ByteText.Of(b.Bytes) : ""
                    ])]);
        }
        Names("Files that were given up", report.Waived, s => $"{s.EndReason} ({s.EndedBy})");
        Names("Files that are still open", report.Open, s => s.Reason);
        if (report.Programs.Count > 0)
        {
            sheet.Heading("Programs of the old computer");
            sheet.Table(
                [new("Program", 2.4), new("On the new computer", 2.6), new("Where to get it", 2.6)],
                [.. report.Programs.Select(p =>
                    (IReadOnlyList<string>)[
                        $"{p.Name} {p.Version}".TrimEnd(),
                        p.Offer is null
                            ? "not in the catalogue"
                            : p.IsLicenceBound
                            ? $"{p.Offer}. Sign out on the old one first."
                            : p.Offer,
                        p.Where ?? ""
                    ])]);
        }
        return sheet.Save();

        void Names(string heading, IReadOnlyList<SnagSeen> snags, Func<SnagSeen, string> why)
        {
            if (snags.Count == 0) return;
            sheet.Heading(heading);
            sheet.Table([new("File", 3), new("Size", 0.8, true), new("Why", 3)], [.. snags.Take(MostLines)
                .Select(s => (IReadOnlyList<string>)[s.Path, s.Bytes > 0 ? ByteText.Of(s.Bytes) : "", why(s)])]);
            if (snags.Count > MostLines) sheet.Paragraph($"and {snags.Count - MostLines:#,0} more; the table (CSV) names each.");
        }

        static string Count(long number) => number == 0 ? "–" : $"{number:#,0}";
    }
}

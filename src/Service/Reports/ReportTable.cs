using System.Globalization;
using YardRelay.Contracts;
using YardRelay.Service.Paper;

namespace YardRelay.Service.Reports;

/// <summary>
/// The report as one table: a line for each folder, each thing that stayed, each file that was given up or is open, each program.
/// </summary>
internal static class ReportTable
{
    private static readonly string[] Heads = [
        "part", "what", "old_files", "old_bytes", "depot_files", "new_files", "files", "bytes", "reason", "by", "where"
    ];

    public static byte[] Write(ParcelReport report) => CsvTable.Write(Rows(report).Prepend(Heads));

    private static IEnumerable<string[]> Rows(ParcelReport report)
    {
        foreach (var f in report.Account.Append(report.Total))
            yield return [
                ReferenceEquals(f, report.Total) ? "total" : "folder",
                f.Folder,
                Text(f.Old.Files),
                Text(f.Old.Bytes),
                Text(f.InDepot.Files),
                f.OnNew is { } on ? Text(on.Files) : "",
                "",
                "",
                "",
                "",
                ""
            ];
        foreach (var s in report.Stayed)
            yield return [
                "stayed", s.What, "", "", "", "", s.Files is { } n ? Text(n.Files) : "", s.Files is { } b ? Text(b.Bytes) : "", s.Reason,
                s.By ?? "", ""
            ];
        foreach (var s in report.Waived)
            yield return ["waived", s.Path, "", "", "", "", "1", Text(s.Bytes), s.EndReason ?? "", s.EndedBy ?? "", ""];
        foreach (var s in report.Open) yield return ["open", s.Path, "", "", "", "", "1", Text(s.Bytes), s.Reason, "", ""];
        foreach (var p in report.Programs)
            yield return [
                "program",
                p.Version is null ? p.Name : $"{p.Name} {p.Version}",
                "",
                "",
                "",
                "",
                "",
                "",
                p.Offer is null
                    ? "not in the catalogue"
                    : $"install {p.Offer}{(p.IsLicenceBound ? "; sign out on the old computer first" : "")}",
                "",
                p.Where ?? ""
            ];
    }

    private static string Text(long number) => number.ToString(CultureInfo.InvariantCulture);
}

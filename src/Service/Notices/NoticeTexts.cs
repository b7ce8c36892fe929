using System.Reflection;
using Microsoft.EntityFrameworkCore;
using YardRelay.Core.Notices;
using YardRelay.Core.Swaps;
using YardRelay.Records;

namespace YardRelay.Service.Notices;

/// <summary>Texts of notices: the refresh's own, else those that ship.</summary>
internal static class NoticeTexts
{
    // By moment, language, and the kind of swap where it reads otherwise there.
    private static readonly Dictionary<(NoticeMoment, string, SwapKind?), string> BuiltIn = Read();

    public static string BuiltInText(NoticeMoment moment, string language, SwapKind? kind = null) =>
        BuiltIn.GetValueOrDefault((moment, language, kind)) ?? BuiltIn.GetValueOrDefault((moment, language, null))
            ?? BuiltIn[(moment, "en", null)];

    public static async Task<Dictionary<(string Moment, string Language), string>> OwnAsync(
        YardDb db, string refresh, CancellationToken cancel) =>
        await db.NoticeTexts.AsNoTracking()
            .Where(t => t.Refresh == refresh)
            .ToDictionaryAsync(t => (t.Moment, t.Language), t => t.Text, cancel);

    /// <summary>The text for a moment. What is kept was checked when it was written.</summary>
    public static NoticeText Of(
        IReadOnlyDictionary<(string Moment, string Language), string> own, NoticeMoment moment, string language, SwapKind kind) =>
        NoticeText.Read(moment, own.GetValueOrDefault((moment.Key(), language)) ?? BuiltInText(moment, language, kind)).Value;

    private const string Folder = ".Notices.Texts.";

    private static Dictionary<(NoticeMoment, string, SwapKind?), string> Read()
    {
        var assembly = Assembly.GetExecutingAssembly();
        var texts = new Dictionary<(NoticeMoment, string, SwapKind?), string>();
        foreach (var name in assembly.GetManifestResourceNames().Where(n => n.Contains(Folder, StringComparison.Ordinal)))
        {
            // booked.en.md, booked.reimage.en.md
            var parts = name[(name.IndexOf(Folder, StringComparison.Ordinal) + Folder.Length)..].Split('.');
            using var reader = new StreamReader(assembly.GetManifestResourceStream(name)!);
            texts[(
                NoticeMoments.Of(parts[0])!.Value,
                parts[^2],
                parts.Length == 4 ? Enum.Parse<SwapKind>(parts[1], ignoreCase: true) : null)] = reader.ReadToEnd();
        }
        return texts;
    }
}

using PdfSharp.Fonts;
using YardRelay.Service.Problems;

namespace YardRelay.Service.Paper;

/// <summary>The fonts of paper: DejaVu Sans, as Debian's fonts-dejavu-core ships it.</summary>
internal sealed class Fonts : IFontResolver
{
    public const string Family = "DejaVu Sans";
    private const string Folder = "/usr/share/fonts/truetype/dejavu";
    private static readonly Lock Gate = new();

    /// <summary>Whether the fonts are on this machine; the first call sets them.</summary>
    public static bool AreThere()
    {
        if (!File.Exists(Path.Combine(Folder, "DejaVuSans.ttf")) || !File.Exists(Path.Combine(Folder, "DejaVuSans-Bold.ttf"))) return false;
        lock (Gate) GlobalFontSettings.FontResolver ??= new Fonts();
        return true;
    }

    /// <summary>What is said where they are not.</summary>
    public static readonly ServiceProblem Missing = new ReportFontsProblem();

    public byte[] GetFont(string faceName) => File.ReadAllBytes(Path.Combine(Folder, faceName));

    public FontResolverInfo ResolveTypeface(string familyName, bool isBold, bool isItalic) =>
        new(isBold ? "DejaVuSans-Bold.ttf" : "DejaVuSans.ttf");
}

using YardRelay.Contracts;

namespace YardRelay.Line.Shown;

/// <summary>A swap's line as text: solid behind, the wagon where it is, dotted ahead.</summary>
internal static class LineText
{
    public static string Of(SwapListed swap)
    {
        var text = new System.Text.StringBuilder();
        for (var i = 0; i < swap.Line.Count; i++)
        {
            if (i > 0) text.Append(i < swap.Next ? "━" : i == swap.Next && swap.Moving is not null ? "◖━◗" : "·");
            text.Append(swap.Line[i].At is not null ? '●' : i < swap.Next ? '◌' : '○');
        }
        return text.ToString();
    }

    public static string Sign(SignSeen sign) =>
        sign.Sign switch { "moving" => "●", "wants" => "▲", "stopped" => "■", "done" => "✓", "off" => "⊘", _ => "○" }
            + $" {sign.Words}";
}

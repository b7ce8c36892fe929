using YardRelay.Carriage.Trips;
using YardRelay.Core;
using YardRelay.Core.Carrying.Landings;

namespace YardRelay.Hand.Verbs;

/// <summary>A landing plan as it is written on a command line.</summary>
internal static class LandingOptions
{
    /// <summary>Reads it, and says everything that is wrong with it.</summary>
    public static Result<LandingPlan> Read(
        IReadOnlyList<string> accounts, IReadOnlyList<string> folders, IReadOnlyList<string> only, IReadOnlyList<string> first,
        IReadOnlyList<string> clashes)
    {
        var (wrong, moves, own, rule) = (new List<Problem>(), new List<Landing>(), new List<FolderClash>(), ClashRule.Beside);
        void Move(string text, string option, bool mustStand)
        {
            if (text.Split('=', 2) is [{ Length: > 0 } from, { Length: > 0 } to]) moves.Add(new(Trim(from), Trim(to), mustStand));
            else wrong.Add(new LandingFormProblem(text, option, mustStand ? "OLD=NEW" : "FROM=TO"));
        }

        foreach (var account in accounts) Move(account, "--account", true);
        foreach (var folder in folders) Move(folder, "--folder", false);
        foreach (var clash in clashes)
        {
            var (folder, text) = clash.LastIndexOf('=') is > 0 and var at ? (Trim(clash[..at]), clash[(at + 1)..]) : (null, clash);
            if (!Enum.TryParse<ClashRule>(text, ignoreCase: true, out var parsed) || int.TryParse(text, out _))
                wrong.Add(new LandingClashProblem(text));
            else if (folder is null) rule = parsed;
            else own.Add(new(folder, parsed));
        }
        if (wrong.Count > 0) return Result<LandingPlan>.Failed(wrong);
        return LandingPlan.Create(moves, [.. only.Select(Trim)], [.. first.Select(Trim)], rule, own);
    }

    /// <summary>To whom what is restored belongs; null: to the account that restores.</summary>
    public static Result<OwnerRule?> Owners(string? account)
    {
        if (!Environment.IsPrivilegedProcess)
            return account is null ? Result<OwnerRule?>.Of(null) : new OwnerForbiddenProblem(account);
        return OwnerRule.Read(account).TryGet(out var rule, out var unknown) ? rule : unknown;
    }

    private static string Trim(string path) => path.Trim('/');
}

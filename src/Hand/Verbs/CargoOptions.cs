using System.CommandLine;
using YardRelay.Core;
using YardRelay.Core.Carrying.CarryLists;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Hand.Verbs;

/// <summary>What comes along, as options say it: a list that was decided, or the rules that a survey goes by.</summary>
/// <param name="Places">By which folders of clutter are known; null: the list has said so, or everything is wanted.</param>
/// <param name="Label">What the disk must be labelled that is carried; null: any will do.</param>
internal sealed record Cargo(CarryList List, PlaceRules? Places, string? Label);

/// <summary>The options by which <c>carry</c> and <c>will-it-go</c> are told what comes along.</summary>
internal sealed class CargoOptions
{
    private readonly Option<string?> _list = new("--carry-list")
    {
        Description =
            "What comes along and what stays, as YAML or JSON; docs/formats.md has the form. Left out: what 'survey' calls clutter stays, "
                + "all else comes along."
    };

    private readonly Option<string[]> _only = new("--only")
    {
        Description = "Nothing but this folder or file comes along; repeat for more. Counts beside the carry list."
    };

    private readonly Option<bool> _everything = new("--everything") { Description = "Caches and other clutter come along, too." };

    /// <summary>The rules for places.</summary>
    public static Option<string?> Rules() => new("--rules")
    {
        Description = "Rules of your own for places, as YAML; they come before ours. 'yardhand rules' prints ours."
    };

    private readonly Option<string?> _rules = Rules();

    private readonly Option<string?> _label = new("--labelled")
    {
        Description = "The disk that is carried bears this label (yardhand label); another one, or an empty place to mount it, is refused."
    };

    /// <summary>All of them.</summary>
    public IEnumerable<Option> All => [_list, _only, _everything, _rules, _label];

    /// <summary>What they say.</summary>
    public Result<Cargo> Read(ParseResult args)
    {
        var list = args.GetValue(_list) is not { } file
            ? CarryList.Everything
            : File.Exists(file)
            ? CarryList.Read(File.ReadAllText(file))
            : new CarryListFileProblem(file);
        if (list.IsOk && args.GetValue(_only) is { Length: > 0 } only) list = list.Value.Only([.. only.Select(o => o.TrimEnd('/'))]);
        if (!list.IsOk) return Result<Cargo>.Failed(list.Problems);
        var label = args.GetValue(_label);
        if (args.GetValue(_everything) || args.GetValue(_list) is not null)
            return args.GetValue(_rules) is null ? new Cargo(list.Value, null, label) : new RulesNotUsedProblem();
        if (args.GetValue(_rules) is not { } own) return new Cargo(list.Value, PlaceRules.Standard, label);
        var read = RulesOf(own);
        return read.IsOk ? new Cargo(list.Value, read.Value, label) : Result<Cargo>.Failed(read.Problems);
    }

    /// <summary>Ours, with those of a file before them.</summary>
    public static Result<PlaceRules> RulesOf(string file)
    {
        if (!File.Exists(file)) return new PlacesFileProblem(file);
        var read = PlaceRules.Read(File.ReadAllText(file));
        return read.IsOk ? PlaceRules.Standard.With(read.Value) : read;
    }
}

using YardRelay.Carriage.Computers;
using YardRelay.Carriage.Names;
using YardRelay.Core.Carrying.Inventories;

namespace YardRelay.Carriage.Trees;

/// <summary>
/// Follows a walk and says of each name whether it stays by the rules for places: what a survey calls clutter, a trip leaves out.
/// </summary>
internal sealed class PlacesOnTheWay
{
    private readonly Customs _customs;
    private readonly List<Customs.Place> _way;

    public PlacesOnTheWay(TreeRoot from, PlaceRules rules)
    {
        _customs = new(Homes.Find(path => HomeFolders.Names(Path.Combine(from.Path, path))), rules);
        _way = [_customs.Top];
    }

    /// <summary>The next name of the walk. Each has to be told, a folder before what is in it.</summary>
    /// <returns>Why it stays; null: it does not.</returns>
    public string? Meet(TreeItem item)
    {
        if (item.Depth == 0) return null;
        if (_way.Count > item.Depth) _way.RemoveRange(item.Depth, _way.Count - item.Depth);
        if (!item.IsFolder) return _way[^1].Because;
        var place = _customs.Enter(
            _way[^1],
            PercentText.Encode(item.Name),
            item.Below.Where(b => _customs.IsOfInterest(b.Name)).Select(b => PercentText.Encode(b.Name)));
        _way.Add(place);
        return place.Because;
    }
}

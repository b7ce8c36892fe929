using YardRelay.Core.Carrying;

namespace YardRelay.Carriage.Depots;

/// <summary>Counts where what was read back came from; safe for calls from several threads.</summary>
internal sealed class ReadTally
{
    private readonly Lock _adding = new();
    private Amount _medium, _cache, _unknown;

    public void Add(ReadFrom from, long bytes)
    {
        lock (_adding)
            _ = from switch
            {
                ReadFrom.Medium => _medium += Amount.File(bytes),
                ReadFrom.Cache => _cache += Amount.File(bytes),
                _ => _unknown += Amount.File(bytes),
            };
    }

    /// <summary>What was counted by now; null: nothing was read.</summary>
    public ReadPlaces? Places
    {
        get
        {
            lock (_adding)
                return (_medium + _cache + _unknown).Files == 0 ? null : new(_medium, _cache, _unknown);
        }
    }
}

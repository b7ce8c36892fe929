using YardRelay.Files.Working;

namespace YardRelay.Carriage.Depots;

/// <summary>
/// The folders of a depot that are known to be there: each is made once, also where many files wait for it at the same moment.
/// </summary>
internal sealed class FoldersMade(IWork work)
{
    private readonly HashSet<string> _made = [];
    private readonly Dictionary<string, Task> _making = [];
    private readonly Lock _one = new();

    public bool Has(DepotPath folder)
    {
        lock (_one) return _made.Contains(folder.Text);
    }

    public void Add(DepotPath folder)
    {
        lock (_one) _made.Add(folder.Text);
    }

    /// <summary>Makes a folder, unless it is known; waits where another is at it.</summary>
    /// <param name="make">Makes it; false: it may not be there.</param>
    public async Task OnceAsync(DepotPath folder, Func<Task<bool>> make)
    {
        while (!folder.IsRoot && !Has(folder))
        {
            var mine = work.Promise<bool>();
            Task? others;
            lock (_one)
                if (!_making.TryGetValue(folder.Text, out others)) _making[folder.Text] = mine.Task;
            if (others is not null)
            {
                await others;
                if (Has(folder)) return;
                // It did not work out for them; whether it does for us, we must see ourselves.
                continue;
            }
            try
            {
                if (await make()) Add(folder);
                return;
            }
            finally
            {
                lock (_one) _making.Remove(folder.Text);
                mine.SetResult(true);
            }
        }
    }

    /// <summary>A folder was removed or moved away, with all in it.</summary>
    public void Forget(DepotPath folder)
    {
        lock (_one) _made.RemoveWhere(m => DepotPath.Of(m).IsIn(folder));
    }

    /// <summary>Somebody else took folders away.</summary>
    public void ForgetAll()
    {
        lock (_one) _made.Clear();
    }
}

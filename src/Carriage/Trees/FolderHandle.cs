using YardRelay.Carriage.Posix;

namespace YardRelay.Carriage.Trees;

/// <summary>An open folder shared by the walk and by the work on its files; closed when the last of them lets go.</summary>
internal sealed class FolderHandle(PosixHandle handle)
{
    private int _users = 1;

    public int Number => handle.Number;

    public PosixHandle Handle => handle;

    public FolderHandle Share()
    {
        Interlocked.Increment(ref _users);
        return this;
    }

    public void Release()
    {
        if (Interlocked.Decrement(ref _users) == 0) handle.Dispose();
    }
}

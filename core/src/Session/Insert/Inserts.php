<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

/** Works on rows of inserts with the splits in them, and the rows of their branches, to any depth. */
final class Inserts
{
    /**
     * Every insert, each split before what is in its branches.
     *
     * @param  list<Insert>  $row
     * @return list<Insert>
     */
    public static function all(array $row): array
    {
        $all = [];
        foreach ($row as $insert) {
            $all[] = $insert;
            foreach ($insert->branches() as $branch) {
                array_push($all, ...self::all($branch->inserts));
            }
        }

        return $all;
    }

    /**
     * The row with one insert, wherever it stands, replaced by others, or by none.
     *
     * @param  list<Insert>  $row
     * @param  list<Insert>  $by
     * @return list<Insert>
     */
    public static function replace(array $row, string $id, array $by): array
    {
        $changed = [];
        foreach ($row as $insert) {
            if ($insert->id() === $id) {
                array_push($changed, ...$by);
            } else {
                $changed[] = $insert->withEachBranch(static fn (Branch $branch): Branch => $branch->withInserts(self::replace($branch->inserts, $id, $by)));
            }
        }

        return $changed;
    }

    /**
     * The row with one branch, wherever it stands, changed.
     *
     * @param  list<Insert>  $row
     * @param  callable(Branch): Branch  $change
     * @return list<Insert>
     */
    public static function changeBranch(array $row, string $id, callable $change): array
    {
        return array_map(static fn (Insert $insert): Insert => $insert->withEachBranch(
            static fn (Branch $branch): Branch => $branch->id === $id
                ? $change($branch)
                : $branch->withInserts(self::changeBranch($branch->inserts, $id, $change)),
        ), $row);
    }

    /**
     * The row with every processor in it changed, in splits as well.
     *
     * @param  list<Insert>  $row
     * @param  callable(ProcessorInsert): ProcessorInsert  $change
     * @return list<Insert>
     */
    public static function changeProcessors(array $row, callable $change): array
    {
        return array_map(static fn (Insert $insert): Insert => $insert instanceof ProcessorInsert ? $change($insert) : $insert->withEachBranch(
            static fn (Branch $branch): Branch => $branch->withInserts(self::changeProcessors($branch->inserts, $change)),
        ), $row);
    }
}

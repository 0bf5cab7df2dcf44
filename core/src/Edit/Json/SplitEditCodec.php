<?php

declare(strict_types=1);

namespace Hafen\Edit\Json;

use Hafen\Document\InvalidDocument;
use Hafen\Document\JsonNode;
use Hafen\Document\RowCodec;
use Hafen\Document\SessionCodec;
use Hafen\Edit\Edit;
use Hafen\Edit\EditRefused;
use Hafen\Edit\Insert\InsertPosition;
use Hafen\Edit\Insert\PasteInserts;
use Hafen\Edit\Insert\Rows;
use Hafen\Edit\Split\AddBranch;
use Hafen\Edit\Split\AddSelector;
use Hafen\Edit\Split\AddSplit;
use Hafen\Edit\Split\Branches;
use Hafen\Edit\Split\DissolveSplit;
use Hafen\Edit\Split\KeepLevel;
use Hafen\Edit\Split\MoveCrossover;
use Hafen\Edit\Split\PullOutBranch;
use Hafen\Edit\Split\RemoveBranch;
use Hafen\Edit\Split\RemoveSelector;
use Hafen\Edit\Split\RenameBranch;
use Hafen\Edit\Split\SetBranchGain;
use Hafen\Edit\Split\SetBranchMute;
use Hafen\Edit\Split\SetBranchPan;
use Hafen\Edit\Split\SetBranchPolarity;
use Hafen\Edit\Split\SetBranchSolo;
use Hafen\Edit\Split\SetBranchZones;
use Hafen\Edit\Split\SetCrossovers;
use Hafen\Edit\Split\SetSelector;
use Hafen\Edit\Split\SetSelectorNotes;
use Hafen\Edit\Split\SetSelectorRange;
use Hafen\Edit\Split\StepSelector;
use Hafen\Edit\Split\TurnSelector;
use Hafen\Edit\Split\WrapInBranch;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Insert\NoteZone;
use Hafen\Session\Insert\Row;
use Hafen\Session\Insert\SelectorFade;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;

/** The edits of splits and their branches, from JSON; {@see EditCodec}. */
final class SplitEditCodec
{
    /**
     * @return ?Edit null when the name is of none of these
     *
     * @throws InvalidDocument with the JSON pointer of the field
     * @throws EditRefused when it names a split that is not there
     */
    public static function decode(string $name, JsonNode $node, Session $session, ProcessorCatalogue $processors, SessionCodec $sessions): ?Edit
    {
        $fields = static fn (string ...$keys): JsonNode => $node->keys(['type', ...array_values($keys)]);

        return match ($name) {
            'add-split' => self::addSplit($node),
            'paste-inserts' => self::pasteInserts($node, $sessions),
            'wrap-in-branch' => new WrapInBranch(EditCodec::ids($fields('inserts')->get('inserts'))),
            'add-branch' => new AddBranch($node->keys(['type', 'split'], ['name'])->get('split')->id(), $node->optional('name')?->text(1, 120)),
            'remove-branch' => new RemoveBranch($fields('branch')->get('branch')->id()),
            'rename-branch' => new RenameBranch($fields('branch', 'name')->get('branch')->id(), $node->get('name')->text(1, 120)),
            'set-branch-gain' => new SetBranchGain(EditCodec::ids($fields('branches', 'gain')->get('branches')), $node->get('gain')->gain()),
            'set-branch-pan' => new SetBranchPan(EditCodec::ids($fields('branches', 'pan')->get('branches')), $node->get('pan')->number(-1.0, 1.0)),
            'set-branch-mute' => new SetBranchMute(EditCodec::ids($fields('branches', 'mute')->get('branches')), $node->get('mute')->boolean()),
            'set-branch-solo' => new SetBranchSolo(EditCodec::ids($fields('branches', 'solo')->get('branches')), $node->get('solo')->boolean()),
            'set-branch-polarity' => new SetBranchPolarity(EditCodec::ids($fields('branches', 'invert')->get('branches')), $node->get('invert')->boolean()),
            'set-crossovers' => self::setCrossovers($fields('split', 'crossovers'), $session),
            'move-crossover' => new MoveCrossover($fields('split', 'index', 'frequency')->get('split')->id(), $node->get('index')->integer(0, 2), $node->get('frequency')->number(20.0, 20000.0, 'Hz')),
            'add-selector' => new AddSelector($fields('split')->get('split')->id()),
            'remove-selector' => new RemoveSelector($fields('split')->get('split')->id()),
            'turn-selector' => new TurnSelector($fields('split', 'value')->get('split')->id(), $node->get('value')->number(0.0, 1.0)),
            'step-selector' => new StepSelector($fields('split', 'to')->get('split')->id(), $node->get('to')->oneOf(['next', 'previous']) === 'next'),
            'set-selector' => self::setSelector($node),
            'set-selector-notes' => new SetSelectorNotes($fields('split', 'notes')->get('split')->id(), $node->get('notes')->value === null ? null : RowCodec::selectorNotes($node->get('notes'))),
            'set-selector-range' => new SetSelectorRange($fields('branch', 'range')->get('branch')->id(), $node->get('range')->value === null ? null : RowCodec::range($node->get('range'))),
            'set-branch-zones' => self::setZones($fields('branch', 'keys', 'velocities')),
            'keep-level' => new KeepLevel($fields('split')->get('split')->id()),
            'dissolve-split' => new DissolveSplit($fields('split', 'keep')->get('split')->id(), $node->get('keep')->id()),
            'pull-out-branch' => new PullOutBranch($fields('branch')->get('branch')->id(), $processors),
            default => null,
        };
    }

    private static function addSplit(JsonNode $node): AddSplit
    {
        $node->keys(['type', 'channel'], ['row', 'at', 'branch', 'by', 'branches', 'crossovers']);
        $by = SplitBy::from($node->optional('by')?->oneOf(array_column(SplitBy::cases(), 'value')) ?? 'copies');
        $branches = $node->optional('branches')?->integer($by->fewest(), $by->most()) ?? 2;
        $crossovers = $node->optional('crossovers');

        return new AddSplit(
            self::position($node),
            $by,
            $branches,
            match (true) {
                $by !== SplitBy::Frequency => $crossovers === null ? [] : throw $crossovers->expected('nothing here: only a split by frequency has crossovers'),
                $crossovers !== null => RowCodec::crossovers($crossovers, $branches - 1),
                default => [[400.0], [250.0, 2500.0], [150.0, 800.0, 4000.0]][$branches - 2],
            },
        );
    }

    private static function setZones(JsonNode $node): SetBranchZones
    {
        $zone = static fn (string $field, int $lowest): ?NoteZone => $node->get($field)->value === null ? null : RowCodec::zone($node->get($field), $lowest);

        return new SetBranchZones($node->get('branch')->id(), $zone('keys', 0), $zone('velocities', 1));
    }

    private static function setSelector(JsonNode $node): SetSelector
    {
        $node->keys(['type', 'split'], ['fade', 'rings']);
        $fade = $node->optional('fade')?->oneOf(array_column(SelectorFade::cases(), 'value'));

        return new SetSelector($node->get('split')->id(), $fade === null ? null : SelectorFade::from($fade), $node->optional('rings')?->boolean());
    }

    private static function pasteInserts(JsonNode $node, SessionCodec $sessions): PasteInserts
    {
        $node->keys(['type', 'channel', 'inserts'], ['row', 'at', 'branch', 'name', 'macros', 'sounds']);
        $inserts = $sessions->row($node->get('inserts'));

        return new PasteInserts($inserts, self::position($node), $node->optional('name')?->text(0, 120) ?? '', $sessions->controls($node, $inserts));
    }

    private static function position(JsonNode $node): InsertPosition
    {
        $branch = $node->optional('branch');

        return new InsertPosition(
            $node->get('channel')->id(),
            Row::from($node->optional('row')?->oneOf(array_column(Row::cases(), 'value')) ?? 'inserts'),
            $node->optional('at')?->integer(0, Rows::MOST),
            $branch === null || $branch->value === null ? null : $branch->id(),
        );
    }

    private static function setCrossovers(JsonNode $node, Session $session): SetCrossovers
    {
        $id = $node->get('split')->id();
        [, $split] = Branches::split($session, $id);

        return new SetCrossovers($id, RowCodec::crossovers($node->get('crossovers'), count($split->crossovers)));
    }
}

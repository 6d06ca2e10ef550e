<?php

declare(strict_types=1);

namespace Quayside\Domain;

use Quayside\Store\BerthRow;

final class Berth
{
    public function __construct(public readonly int $number, public readonly float $depth)
    {
    }

    public static function fromRow(BerthRow $row): self
    {
        return new self($row->number, $row->depth);
    }

    public function takes(float $draught): bool
    {
        return $this->depth - $draught >= 0.5;
    }
}

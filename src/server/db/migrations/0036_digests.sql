ALTER TABLE `picture` ADD `link_digest` binary(8) GENERATED ALWAYS AS (left(unhex(md5(`link`)), 8)) STORED;--> statement-breakpoint
ALTER TABLE `shop_page` ADD `address_digest` binary(8) GENERATED ALWAYS AS (left(unhex(md5(`address`)), 8)) STORED;--> statement-breakpoint
CREATE INDEX `picture_digest` ON `picture` (`link_digest`);--> statement-breakpoint
CREATE INDEX `shop_page_digest` ON `shop_page` (`address_digest`);